import { textOf, type FieldOf } from '@/core/content';
import { asContent, Shell, type FieldProps } from './input';

/** A telephone number, as it is written. */
export function TelephoneInput(props: FieldProps<FieldOf<'telephone'>>) {
  const { field, readOnly, onChange } = props;
  return (
    <Shell of={props}>
      {(ids) => (
        <input
          {...ids}
          type="tel"
          autoComplete="off"
          className="field max-w-[18rem]"
          maxLength={80}
          readOnly={readOnly}
          value={textOf(asContent(props), field.id)}
          onChange={(event) => onChange(event.target.value)}
        />
      )}
    </Shell>
  );
}
