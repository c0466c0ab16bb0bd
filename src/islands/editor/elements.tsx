import { createContext, useContext, type ReactNode } from 'react';
import type { Field } from '@/core/content';
import type { ElementState } from '@/core/screens';
import { Icon } from '../kit/Icon';

/** How the elements of this edit screen are prepared, by their ids; what is not named is as it is by itself. */
export type Elements = Readonly<Record<string, Omit<ElementState, 'because'>>>;
export const ElementsContext = createContext<Elements>({});

const NOTHING = {};
export function useElement(id: string): Elements[string] {
  return useContext(ElementsContext)[id] ?? NOTHING;
}

/** Of people to choose from: whoever chooses. */
const ME = 'me';

/** A field in the administrator's words, with what it offers. */
export function preparedField(field: Field, { label, hint, required, choices }: Elements[string]): Field {
  const named: Field = {
    ...field,
    ...(label && { name: label }),
    ...(hint && { hint }),
    ...(required && { required: true as const }),
  };
  return choices && named.kind === 'choice'
    ? { ...named, options: named.options.filter(({ id }) => choices.includes(id)) }
    : named;
}

/** The people a field offers. */
export const peopleOffered = <P extends { id: string }>(
  people: readonly P[],
  { choices }: Elements[string],
  me: string,
  chosen: unknown,
): readonly P[] =>
  choices?.includes(ME) ? people.filter(({ id }) => id === me || id === chosen || choices.includes(id)) : people;

/** Why the panel around is locked: told once, not at each of its fields. */
export const PanelLock = createContext<string | undefined>(undefined);

/** Why something cannot be changed, in the administrator's words. */
export function LockNote({ reason }: { reason: string | undefined }) {
  const around = useContext(PanelLock);
  if (reason === undefined || reason === around) return null;
  return (
    <p className="mt-1 flex items-start gap-1.5 text-sm text-ink-2">
      <Icon name="lock" size={15} className="mt-0.5 shrink-0" /> {reason}
    </p>
  );
}

/** Something closed at first: its name, and what is in it once it is opened. */
export function Shut({ name, children }: { name: string; children: ReactNode }) {
  return (
    <details className="group rounded-[10px] border border-line bg-sheet">
      <summary className="flex min-h-[44px] list-none items-center gap-2 px-3 [&::-webkit-details-marker]:hidden">
        <span className="clip flex-1 font-semibold">{name}</span>
        <Icon name="down" size={16} className="text-ink-2 group-open:rotate-180" />
      </summary>
      <div className="border-t border-line p-3">{children}</div>
    </details>
  );
}
