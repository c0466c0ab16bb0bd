import type { Tx } from '../db/client';
import { isKeyholder, type Access } from '../gate/access';
import { mayOn } from '../gate/authorize';
import { reviewersOf } from '../items/reviewers';
import { listPeople } from '../people/people';
import type { PageFacts } from '../tree/tree';

/**
 * Whom somebody can ask: who looks after this back office, and who could look a second time at what they write, as far
 * as they write anywhere. One question.
 */
export async function listWhomToAsk(
  tx: Tx,
  access: Access,
  pages: readonly PageFacts[],
): Promise<{ name: string; about: string }[]> {
  const others = (await listPeople(tx, access.site.id)).filter((person) => person.id !== access.who.id);
  const mine = mayOn(access, 'page.send');
  const place = pages.find((page) => mine(page.place))?.place;
  const keyholders = others.filter(isKeyholder);
  const reviewers = place
    ? reviewersOf(access, others, { place, writtenBy: [access.who.id] }).filter((person) => !isKeyholder(person))
    : [];
  return [
    ...reviewers.map(({ name }) => ({ name, about: 'Looks at your work a second time before visitors see it.' })),
    ...keyholders.map(({ name }) => ({
      name,
      about: 'Looks after this back office, and can give you what is missing.',
    })),
  ];
}
