// ./safe-room where [--role ID]: answers "Where do I…?" from the demo's plan, without database or server.
import { readFileSync } from 'node:fs';
import { askable, makeFinder } from '../src/core/ask';
import { demoPlaces } from '../src/demo/places';
import { demoPlan } from '../src/demo/plan';
import { DEMO_SITE } from '../src/demo/site';
import { inventoryOf } from '../src/office';
import { CommandFault } from './cluster';

const MOST = 10;
const inventory = inventoryOf(DEMO_SITE);

/**
 * Reads questions from standard input, one a line, and writes for each a line of JSON:
 * `{"found":[{"id","kind","may"}]}`, best first, as somebody with that role would be answered. Throws a CommandFault
 * for a role the demo has not.
 */
export function answerWhere(role: string): void {
  const plan = demoPlan(inventory, (key) => key);
  if (!plan.roles.some((one) => one.id === role))
    throw new CommandFault(`The demo has no role “${role}”. It has: ${plan.roles.map((one) => one.id).join(', ')}.`);
  const find = makeFinder(
    askable({
      inventory,
      plan,
      person: { id: 'somebody', name: 'Somebody', assignments: [{ role }] },
      places: demoPlaces(),
      nowMs: 0,
    }),
  );
  const lines = readFileSync(0, 'utf8').split(/\r?\n/);
  if (lines.at(-1) === '') lines.pop();
  for (const asked of lines)
    console.log(JSON.stringify({ found: find(asked, MOST).map(({ id, kind, may }) => ({ id, kind, may })) }));
}
