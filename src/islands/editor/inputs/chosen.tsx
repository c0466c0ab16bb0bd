import { textOf, type FieldOf } from '@/core/content';
import { PictureChooser } from '../PictureChooser';
import { asContent, Shell, type FieldProps } from './input';

/** One of some things. */
export function ChoiceInput(props: FieldProps<FieldOf<'choice'>>) {
  const { field, readOnly, onChange } = props;
  const text = textOf(asContent(props), field.id);
  return (
    <Shell of={props}>
      {(ids) => (
        <select
          {...ids}
          className="field"
          disabled={readOnly}
          value={text}
          onChange={(event) => onChange(event.target.value)}
        >
          {text === '' && <option value="">Choose…</option>}
          {field.options.map((option) => (
            <option key={option.id} value={option.id}>
              {option.name}
            </option>
          ))}
        </select>
      )}
    </Shell>
  );
}

/** Somebody of the site. */
export function PersonInput(props: FieldProps<FieldOf<'person'>>) {
  const { field, readOnly, onChange, context } = props;
  const text = textOf(asContent(props), field.id);
  return (
    <Shell of={props}>
      {(ids) => (
        <select
          {...ids}
          className="field"
          disabled={readOnly}
          value={text}
          onChange={(event) => onChange(event.target.value || null)}
        >
          {text === '' && <option value="">Nobody yet</option>}
          {context.people.map((person) => (
            <option key={person.id} value={person.id}>
              {person.name}
            </option>
          ))}
        </select>
      )}
    </Shell>
  );
}

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
