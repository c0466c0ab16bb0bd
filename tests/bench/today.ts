// Today: somebody's own arrangement worked out, and the screen with twelve widgets on a website of 5,000 pages.
import pg from 'pg';
import { arranged, asPrepared, boardOf, changedOwn, HOLDS, type Board, type Own } from '../../src/core/dashboard';
import type { Plan } from '../../src/core/plan';
import { timed } from './pages';

/** A board of forty widgets, and somebody who moved half of them. */
function muchMoved(): { board: Board; own: Own } {
  const widgets = Array.from({ length: 40 }, (_, i) => ({ widget: `w${i}`, hold: HOLDS[1 + (i % 3)] ?? 'away' }));
  const board = boardOf(...[0, 1, 2, 3].map((column) => widgets.filter((_, i) => i % 4 === column)));
  let own = asPrepared();
  for (let i = 0; i < 40; i += 2)
    own =
      changedOwn(board, own, { do: 'move', entry: `w${i}`, column: (i * 7) % 4, index: (i * 3) % 9 }, ({ id }) => id) ??
      own;
  return { board, own };
}

export function measureMerge(rate: (run: () => void) => number, say: (what: string, value: string) => void): void {
  const { board, own } = muchMoved();
  const each = 1000 / rate(() => arranged(board, own));
  say('own arrangement merged (40 widgets, 20 moved)', `${each.toFixed(3)} ms`);
}

const TWELVE = [
  ['pages.unfinished', 'pages.lately', 'pages.coming', 'pages.care'],
  ['notices.now', 'review.waiting', 'vacancies.open', 'frame.whom'],
  ['visits.week', 'visits.missed', 'frame.way', 'frame.changed'],
];

/** Today of the keyholder with twelve widgets, beside the same with none. */
export async function measureToday(
  url: string,
  databaseUrl: string,
  cookie: string,
  say: (what: string, value: string) => void,
): Promise<void> {
  const client = new pg.Client({ connectionString: databaseUrl });
  await client.connect();
  const {
    rows: [live],
  } = await client.query<{ plan: Plan; site_id: number }>(
    'select plan, site_id from releases order by number desc limit 1',
  );
  if (!live) throw new Error('no release');
  const today = async (columns: string[][]) => {
    const roles = live.plan.roles.map((role) =>
      role.id === 'keyholder' ? { ...role, dashboard: boardOf(...columns) } : role,
    );
    const { rows } = await client.query<{ id: number }>(
      `insert into releases (site_id, number, plan, note) select $1, max(number) + 1, $2, 'bench' from releases returning id`,
      [live.site_id, JSON.stringify({ ...live.plan, roles })],
    );
    await client.query('update sites set live_release_id = $1', [rows[0]?.id]);
    return timed(() => fetch(`${url}/room`, { headers: { cookie } }), 30);
  };
  const none = await today([[]]);
  const twelve = await today(TWELVE);
  await client.end();
  say('5,000 pages: Today with no widget, with twelve', `${none.toFixed(1)} ms, ${twelve.toFixed(1)} ms median`);
}
