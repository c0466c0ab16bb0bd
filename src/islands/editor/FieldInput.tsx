import { preparedField, LockNote, peopleOffered, Shut, useElement } from './elements';
import { inputOf } from './inputs';
import type { FieldProps } from './inputs/input';

/** A field that can be gone to by its id, as the edit screen was prepared: not there, shut, locked, in other words. */
export function FieldInput(props: FieldProps) {
  const state = useElement(props.field.id);
  if (state.show === 'hidden') return null;
  const field = preparedField(props.field, state);
  const people = peopleOffered(props.context.people, state, props.context.me ?? '', props.value);
  const Input = inputOf(field);
  if (!Input) return null;
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
