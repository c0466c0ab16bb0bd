import { textOf, type FieldOf } from '@/core/content';
import { asContent, Shell, type FieldProps } from './input';

const NEAR = 0.8;
const counted = (max: number, value: string) => {
  const count = [...value].length;
  return {
    over: count > max,
    words: count > max * NEAR ? `${Math.max(0, max - count)} characters left.` : undefined,
    count,
  };
};

/** Words in a line, or in several, with how many are left near the end. */
export function WordsInput(props: FieldProps<FieldOf<'short' | 'long'>>) {
  const { field, readOnly, onChange, big, fault } = props;
  const text = textOf(asContent(props), field.id);
  const { over, words, count } = counted(field.max, text);
  const shared = {
    value: text,
    readOnly,
    maxLength: field.max * 2,
    dir: 'auto' as const,
    onChange: (event: { target: { value: string } }) => onChange(event.target.value),
  };
  return (
    <Shell
      of={props}
      hint={[field.hint, words].filter(Boolean).join(' ') || undefined}
      wrong={over ? `${field.name} can have ${field.max} characters; this has ${count}.` : fault}
    >
      {(ids) =>
        field.kind === 'short' ? (
          <input {...ids} {...shared} className={`field ${big ? 'font-head text-xl font-bold' : ''}`} />
        ) : (
          <textarea {...ids} {...shared} rows={2} className="field" />
        )
      }
    </Shell>
  );
}
