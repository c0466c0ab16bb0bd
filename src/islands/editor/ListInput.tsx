import { entriesOf, type FieldOf } from '@/core/content';
import { Icon } from '../kit/Icon';
import { asContent, type FieldProps } from './inputs/input';

/** A list of small entries: added, taken out and put in order. */
export function ListInput(props: FieldProps<FieldOf<'list'>>) {
  const { field, onChange, readOnly, fault } = props;
  const entries = entriesOf(asContent(props), field.id);
  const put = (i: number, id: string, text: string) =>
    onChange(entries.map((entry, k) => (k === i ? { ...entry, [id]: text } : entry)));
  const swap = (i: number, k: number) => {
    const next = [...entries];
    const [a, b] = [next[i], next[k]];
    if (!a || !b) return;
    next[i] = b;
    next[k] = a;
    onChange(next);
  };
  const empty = () => Object.fromEntries(field.of.map((part) => [part.id, '']));
  return (
    <fieldset className="grid gap-2 rounded-s border border-line p-3">
      <legend className="label px-1">{field.name}</legend>
      {fault && <p className="font-semibold text-brick">{fault}</p>}
      {entries.length === 0 && <p className="text-ink-2">No {field.entry} yet.</p>}
      {entries.map((entry, i) => (
        <div
          key={i}
          role="group"
          aria-label={`${field.name}, ${field.entry} ${i + 1}`}
          className="flex flex-wrap items-end gap-2"
        >
          {field.of.map((part, k) => (
            <label key={part.id} className={k === 0 ? 'w-[8rem]' : 'min-w-[10rem] flex-1'}>
              <span className={i === 0 ? 'label' : 'sr-only'}>{part.name}</span>
              <input
                className="field"
                dir="auto"
                readOnly={readOnly}
                maxLength={part.max}
                value={entry[part.id] ?? ''}
                onChange={(event) => put(i, part.id, event.target.value)}
              />
            </label>
          ))}
          {!readOnly && (
            <div className="flex">
              <button
                type="button"
                className="btn btn-quiet btn-small px-1.5"
                disabled={i === 0}
                aria-label={`Move ${field.entry} ${i + 1} up`}
                onClick={() => swap(i, i - 1)}
              >
                <Icon name="up" size={16} />
              </button>
              <button
                type="button"
                className="btn btn-quiet btn-small px-1.5"
                disabled={i === entries.length - 1}
                aria-label={`Move ${field.entry} ${i + 1} down`}
                onClick={() => swap(i, i + 1)}
              >
                <Icon name="down" size={16} />
              </button>
              <button
                type="button"
                className="btn btn-quiet btn-small px-1.5"
                aria-label={`Take ${field.entry} ${i + 1} out`}
                onClick={() => onChange(entries.filter((_, k) => k !== i))}
              >
                <Icon name="close" size={16} />
              </button>
            </div>
          )}
        </div>
      ))}
      {!readOnly && entries.length < field.most && (
        <button
          type="button"
          className="btn btn-small justify-self-start"
          onClick={() => onChange([...entries, empty()])}
        >
          <Icon name="plus" size={15} /> Add an {field.entry}
        </button>
      )}
    </fieldset>
  );
}
