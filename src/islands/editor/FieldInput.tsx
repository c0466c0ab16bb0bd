import { lazy, Suspense, useState } from 'react';
import {
  asHref,
  entriesOf,
  LINK_GONE,
  linkOf,
  textOf,
  thingOf,
  type Entry,
  type Field,
  type FieldOf,
  type FieldValue,
} from '@/core/content';
import { Icon } from '../kit/Icon';
import { Dialog, Labelled } from '../kit/parts';
import { preparedField, LockNote, peopleOffered, Shut, useElement } from './elements';

// Fetched when a page is chosen.
const PageTargets = lazy(() => import('./PageTargets').then((module) => ({ default: module.PageTargets })));

export interface FieldContext {
  people: readonly { id: string; name: string }[];
  /** Who chooses, where that makes a difference. */
  me?: string;
}
export interface FieldProps {
  field: Field;
  value: FieldValue | undefined;
  onChange: (value: FieldValue) => void;
  readOnly: boolean;
  context: FieldContext;
  fault?: string | undefined;
  anchor?: string;
  big?: boolean;
}

const NEAR = 0.8;
const counted = (max: number, value: string) => {
  const count = [...value].length;
  return {
    over: count > max,
    words: count > max * NEAR ? `${Math.max(0, max - count)} characters left.` : undefined,
    count,
  };
};

/** A field that can be gone to by its id, as the edit screen was prepared: not there, shut, locked, in other words. */
export function FieldInput(props: FieldProps) {
  const state = useElement(props.field.id);
  if (state.show === 'hidden') return null;
  const field = preparedField(props.field, state);
  const people = peopleOffered(props.context.people, state, props.context.me ?? '', props.value);
  const input = (
    <>
      <Input
        {...props}
        field={field}
        readOnly={props.readOnly || state.lock !== undefined}
        context={{ ...props.context, people }}
      />
      <LockNote reason={state.lock} />
    </>
  );
  return (
    <div data-field={props.field.id}>{state.show === 'closed' ? <Shut name={field.name}>{input}</Shut> : input}</div>
  );
}

/** A number as it is typed: with a comma or a point; what is none is kept as text, and marked. */
function NumberInput({
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

/** A field of a page that is not a rich text: label, hint, what is wrong, and an input of its kind. */
function Input({ field, value, onChange, readOnly, context, fault, anchor, big }: FieldProps) {
  const content = { [field.id]: value ?? null };
  const text = textOf(content, field.id);
  const label = `${field.name}${field.required && field.id !== 'title' ? ' (needed)' : ''}`;
  const shell = (input: Parameters<typeof Labelled>[0]['children'], hint = field.hint, wrong = fault) => (
    <Labelled label={label} hint={hint} fault={wrong} {...(anchor && { anchor })}>
      {input}
    </Labelled>
  );
  switch (field.kind) {
    case 'short':
    case 'long': {
      const { over, words, count } = counted(field.max, text);
      const shared = {
        value: text,
        readOnly,
        maxLength: field.max * 2,
        dir: 'auto' as const,
        onChange: (event: { target: { value: string } }) => onChange(event.target.value),
      };
      return shell(
        (ids) =>
          field.kind === 'short' ? (
            <input {...ids} {...shared} className={`field ${big ? 'font-head text-xl font-bold' : ''}`} />
          ) : (
            <textarea {...ids} {...shared} rows={2} className="field" />
          ),
        [field.hint, words].filter(Boolean).join(' ') || undefined,
        over ? `${field.name} can have ${field.max} characters; this has ${count}.` : fault,
      );
    }
    case 'choice':
      return shell((ids) => (
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
      ));
    case 'person':
      return shell((ids) => (
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
      ));
    case 'day':
    case 'moment':
      return shell((ids) => (
        <input
          {...ids}
          type={field.kind === 'day' ? 'date' : 'datetime-local'}
          className="field"
          readOnly={readOnly}
          value={text}
          onChange={(event) => onChange(event.target.value)}
        />
      ));
    case 'number':
      return shell((ids) => (
        <span className="flex items-center gap-2">
          <NumberInput {...ids} className="field max-w-[10rem]" readOnly={readOnly} value={value} onChange={onChange} />
          {field.unit}
        </span>
      ));
    case 'yes':
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
    case 'link':
      return (
        <LinkInput
          field={field}
          value={linkOf(content, field.id)}
          onChange={onChange}
          readOnly={readOnly}
          fault={fault}
        />
      );
    case 'list':
      return (
        <ListInput
          field={field}
          entries={entriesOf(content, field.id)}
          onChange={onChange}
          readOnly={readOnly}
          fault={fault}
        />
      );
    case 'picture':
    case 'rich':
    case 'pieces':
      return null;
  }
}

function LinkInput({
  field,
  value,
  onChange,
  readOnly,
  fault,
}: {
  field: Field;
  value: { href: string; words: string } | null;
  onChange: (value: FieldValue) => void;
  readOnly: boolean;
  fault: string | undefined;
}) {
  const [choosing, setChoosing] = useState(false);
  const kept = value?.href ?? '';
  // What is there goes by its address here.
  const gone = thingOf(kept) !== undefined;
  const shown = gone ? '' : kept;
  const set = (part: { href?: string; words?: string }) => {
    const next = { href: kept, words: value?.words ?? '', ...part };
    onChange(next.href === '' && next.words === '' ? null : next);
  };
  return (
    <fieldset className="grid gap-2 rounded-s border border-line p-3 sm:grid-cols-2">
      <legend className="label px-1">{field.name}</legend>
      <Labelled
        label="Leads to"
        hint="A page (/fares), a web address, a mail address or a telephone number."
        fault={fault ?? (gone ? LINK_GONE : undefined)}
      >
        {(ids) => (
          <input
            {...ids}
            className="field"
            readOnly={readOnly}
            value={shown}
            onChange={(event) => set({ href: event.target.value })}
            onBlur={(event) => {
              const href = asHref(event.target.value);
              if (href !== shown) set({ href });
            }}
          />
        )}
      </Labelled>
      <Labelled label="Words to press">
        {(ids) => (
          <input
            {...ids}
            className="field"
            dir="auto"
            readOnly={readOnly}
            value={value?.words ?? ''}
            onChange={(event) => set({ words: event.target.value })}
          />
        )}
      </Labelled>
      {!readOnly && (
        <button type="button" className="btn btn-small justify-self-start" onClick={() => setChoosing(true)}>
          <Icon name="tree" size={15} /> Choose a page<span className="sr-only"> for {field.name}</span>
        </button>
      )}
      {choosing && (
        <Dialog open onClose={() => setChoosing(false)} title={`${field.name}: which page?`}>
          <Suspense fallback={<p role="status">Looking…</p>}>
            <PageTargets
              href={shown}
              onChoose={(href) => {
                set({ href });
                setChoosing(false);
              }}
            />
          </Suspense>
        </Dialog>
      )}
    </fieldset>
  );
}

/** A list of small entries: added, taken out and put in order. */
function ListInput({
  field,
  entries,
  onChange,
  readOnly,
  fault,
}: {
  field: FieldOf<'list'>;
  entries: Entry[];
  onChange: (value: FieldValue) => void;
  readOnly: boolean;
  fault: string | undefined;
}) {
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
