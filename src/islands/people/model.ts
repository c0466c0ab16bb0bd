import type { GivenAssignment } from '@/core/wire';
import { fold } from '@/core/words';

/** An assignment with its words, as the list shows it. */
export interface HeldRole {
  role: string;
  where: string;
  times: string;
  over: boolean;
}
export interface PersonRow {
  id: string;
  name: string;
  email: string;
  state: 'active' | 'invited' | 'paused';
  lastSeen: string;
  held: HeldRole[];
  given: GivenAssignment[];
  /** "in 12 days", when all they hold ends soon. */
  endsSoon: string | null;
  isKeyholder: boolean;
  isMe: boolean;
}
export interface RoleChoice {
  id: string;
  name: string;
  archived: boolean;
}

/** People whose name, mail address or role holds what was typed, and who are in the state asked for. */
export function findPeople(people: readonly PersonRow[], typed: string, only: string): PersonRow[] {
  const words = fold(typed.trim());
  return people.filter(
    (person) =>
      (words === '' ||
        fold(`${person.name} ${person.email} ${person.held.map((h) => `${h.role} ${h.where}`).join(' ')}`).includes(
          words,
        )) &&
      (only === '' ||
        (only === 'soon'
          ? person.endsSoon !== null
          : only === 'none'
            ? person.held.every((h) => h.over)
            : person.state === only)),
  );
}
