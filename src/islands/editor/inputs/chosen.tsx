import { textOf, type FieldOf } from '@/core/content';
import { PictureChooser } from '../PictureChooser';
import { asContent, Shell, type FieldProps } from './input';

/** One of some; `none` is what stands there while nothing is chosen. */
function OneOf({
  of,
  options,
  none,
  onChoose,
}: {
  of: FieldProps;
  options: readonly { id: string; name: string }[];
  none: string;
  onChoose: (id: string) => void;
}) {
  const text = textOf(asContent(of), of.field.id);
  return (
    <Shell of={of}>
      {(ids) => (
        <select
          {...ids}
          className="field"
          disabled={of.readOnly}
          value={text}
          onChange={(event) => onChoose(event.target.value)}
        >
          {text === '' && <option value="">{none}</option>}
          {options.map(({ id, name }) => (
            <option key={id} value={id}>
              {name}
            </option>
          ))}
        </select>
      )}
    </Shell>
  );
}

/** One of some things. */
export const ChoiceInput = (props: FieldProps<FieldOf<'choice'>>) => (
  <OneOf of={props} options={props.field.options} none="Choose…" onChoose={props.onChange} />
);

/** Somebody of the site. */
export const PersonInput = (props: FieldProps<FieldOf<'person'>>) => (
  <OneOf of={props} options={props.context.people} none="Nobody yet" onChoose={(id) => props.onChange(id || null)} />
);

/** Yes or no. */
export function YesInput({ field, value, onChange, readOnly, anchor }: FieldProps<FieldOf<'yes'>>) {
  return (
    <label className="flex min-h-[28px] items-center gap-2" data-anchor={anchor}>
      <input
        type="checkbox"
        className="h-5 w-5 accent-pine"
        disabled={readOnly}
        checked={value === true}
        onChange={(event) => onChange(event.target.checked)}
      />{' '}
      {field.name}
    </label>
  );
}

/** A picture, where no panel of its own asks for it. */
export function PictureInput(props: FieldProps<FieldOf<'picture'>>) {
  const { field, readOnly, onChange, context, fault, anchor } = props;
  return (
    <fieldset data-anchor={anchor}>
      <legend className="label">{field.name}</legend>
      {field.hint && <p className="hint mb-1">{field.hint}</p>}
      <PictureChooser
        label={field.name}
        value={textOf(asContent(props), field.id) || null}
        pictures={[...(context.pictures ?? [])]}
        readOnly={readOnly}
        onChange={onChange}
        small
      />
      {fault && <p className="mt-1 font-semibold text-brick">{fault}</p>}
    </fieldset>
  );
}
