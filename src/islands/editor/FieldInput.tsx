import { useState } from 'react';
import { entriesOf, linkOf, textOf, type Field, type FieldValue } from '@/core/content';
import { Labelled } from '../kit/parts';
import { preparedField, LockNote, peopleOffered, Shut, useElement } from './elements';
import { LinkInput } from './LinkInput';
import { ListInput } from './ListInput';
import { WhenField } from '../kit/when/WhenField';

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
        <WhenField
          {...ids}
          kind={field.kind === 'day' ? 'day' : 'moment'}
          past
          readOnly={readOnly}
          value={text}
          onChange={onChange}
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
