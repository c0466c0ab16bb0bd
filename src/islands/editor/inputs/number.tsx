import { useState } from 'react';
import type { FieldOf, FieldValue } from '@/core/content';
import { Shell, type FieldProps } from './input';

/** A number as it is typed: with a comma or a point; what is none is kept as text, and marked. */
function TypedNumber({
  value,
  onChange,
  ...rest
}: { value: FieldValue | undefined; onChange: (value: FieldValue) => void } & Omit<
  React.ComponentProps<'input'>,
  'value' | 'onChange'
>) {
  const said = typeof value === 'number' || typeof value === 'string' ? String(value) : '';
  const [typed, setTyped] = useState(said);
  const numberOf = (text: string): string | number | null =>
    text.trim() === '' ? null : /^-?\d+([.,]\d+)?$/.test(text.trim()) ? Number(text.trim().replace(',', '.')) : text;
  // Changed from outside: what was typed no longer says the same.
  const shown = String(numberOf(typed) ?? '') === said ? typed : said;
  return (
    <input
      {...rest}
      inputMode="decimal"
      value={shown}
      onChange={(event) => {
        setTyped(event.target.value);
        onChange(numberOf(event.target.value));
      }}
    />
  );
}

/** A number, with its unit behind it. */
export function NumberInput(props: FieldProps<FieldOf<'number'>>) {
  const { field, value, readOnly, onChange } = props;
  return (
    <Shell of={props}>
      {(ids) => (
        <span className="flex items-center gap-2">
          <TypedNumber {...ids} className="field max-w-[10rem]" readOnly={readOnly} value={value} onChange={onChange} />
          {field.unit}
        </span>
      )}
    </Shell>
  );
}
