import { canonical } from '@/core/json';
import type { ManyChange, ManyRow } from '@/core/wire';
import type { Tx } from '../db/client';
import { tryOut } from '../db/tryOut';
import type { Access } from '../gate/access';
import { Problem } from '../gate/problems';
import { mustFindPerson, lockPeople, setAssignments, toGiven } from './assign';
import { setSuspended } from './details';

async function changeOne(tx: Tx, access: Access, id: number, change: ManyChange): Promise<string | null> {
  const { person } = await mustFindPerson(tx, access, id);
  if (change.do === 'pause' || change.do === 'resume') {
    if (Boolean(person.suspended) === (change.do === 'pause')) return null;
    await setSuspended(tx, access, id, change.do === 'pause');
    return change.do === 'pause' ? 'Is signed out at once and can do nothing.' : 'Can work again.';
  }
  const before = person.assignments.map((a) => toGiven(a, access.site.timeZone));
  const after =
    change.do === 'take'
      ? before.filter((a) => a.role !== change.role)
      : before.some((a) => canonical(a) === canonical(change.assignment))
        ? before
        : [...before, change.assignment];
  return after.length === before.length ? null : setAssignments(tx, access, id, { before, after });
}

/**
 * Changes several people the same way, each on its own: who may not be changed so is left out, and it is said why.
 * Without `confirm` all of it is done and taken back, so what is told beforehand is what happens. Runs in a
 * transaction.
 */
export async function changeMany(
  tx: Tx,
  access: Access,
  given: { people: readonly number[]; change: ManyChange; confirm: boolean },
): Promise<{ rows: ManyRow[]; done: boolean }> {
  await lockPeople(tx, access);
  const rows: ManyRow[] = [];
  const work = async (all: Tx): Promise<void> => {
    for (const id of new Set(given.people)) {
      const { name } = (await mustFindPerson(all, access, id)).person;
      const row = (outcome: ManyRow['outcome'], says: string) => rows.push({ id: String(id), name, outcome, says });
      try {
        const says = await all.transaction((one) => changeOne(one, access, id, given.change));
        if (says === null)
          row(
            'same',
            given.change.do === 'give'
              ? 'Holds this already.'
              : given.change.do === 'take'
                ? 'Does not hold it.'
                : given.change.do === 'pause'
                  ? 'Is paused already.'
                  : 'Is not paused.',
          );
        else row('done', says);
      } catch (error) {
        if (!(error instanceof Problem)) throw error;
        row('fault', error.detail);
      }
    }
  };
  await (given.confirm ? work(tx) : tryOut(tx, work));
  return { rows, done: given.confirm };
}
