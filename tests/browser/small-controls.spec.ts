import type { Page } from '@playwright/test';
import type { Operation } from '../../src/core/plan';
import { expect, goLive, goToPage, hire, isPrepared, loads, signIn, test } from './app';

/** Prepares changes of a role without going live. */
async function prepares(keyholder: Page, role: string, ...operations: Operation[]): Promise<void> {
  const status = await keyholder.evaluate(
    async ({ role, operations }) => {
      const post = (revision: number) =>
        fetch('/api/workshop/plan', {
          method: 'POST',
          headers: { 'content-type': 'application/json', 'idempotency-key': crypto.randomUUID() },
          body: JSON.stringify({ revision, role, operations }),
        });
      // Refused, with the revision there is.
      const { state } = (await (await post(0)).json()) as { state: { revision: number } };
      return (await post(state.revision)).status;
    },
    { role, operations },
  );
  expect(status).toBe(200);
}
const purpose = (role: string): Operation => ({ do: 'name-role', role, name: `${role} anew`, purpose: 'Told anew.' });

test('“Allow it on …” allows it there and nowhere else', async ({ browser, app }) => {
  const maud = await signIn(browser, app, 'Maud');
  // A role that works on one page.
  await goToPage(maud, 'South Quay');
  const there = new URL(maud.url()).pathname.split('/').at(-1) ?? '';
  await prepares(
    maud,
    'quay',
    { do: 'add-role', role: 'quay', name: 'Quay helpers', purpose: 'Help at the quay.' },
    { do: 'set-door', role: 'quay', section: 'pages', state: 'open' },
    ...(['page.view', 'page.edit'] as const).map((permission): Operation => ({
      do: 'add-grant',
      role: 'quay',
      grant: { id: permission, effect: 'allow', permission, scope: { branch: there } },
    })),
  );
  await maud.goto('/workshop/roles/quay/tasks');
  await maud.getByRole('checkbox', { name: /^Publish a page at once/ }).check();
  const allow = maud.getByRole('button', { name: /^Allow it on .* for Publish a page at once$/ });
  await expect(allow).toContainText('Allow it on South Quay');
  await allow.click();
  await expect(allow).toHaveCount(0);
  const task = maud.getByRole('listitem').filter({ hasText: 'Publish a page at once' });
  await expect(task.getByText('can be done', { exact: true })).toBeVisible();
  await isPrepared(maud);
  await goLive(maud, 'quay', purpose('quay'));
  await hire(app, 'Edda', 'quay');
  const able = maud.getByRole('row').filter({ hasText: 'Edda' });
  // Asked of everybody, page by page: where the role works, and on the page above it.
  await maud.goto(`/workshop/access/who?may=page.publish&branch=${there}`);
  await expect(able).toHaveCount(1);
  await maud.goto('/workshop/access/who?may=page.publish&branch=1');
  await expect(maud.getByRole('row').filter({ hasText: 'Maud Ellery' })).toHaveCount(1);
  await expect(able).toHaveCount(0);
  await maud.context().close();
});

test('“Go live with these” leaves what was left for later prepared, and nobody has it', async ({ browser, app }) => {
  const maud = await signIn(browser, app, 'Maud');
  for (const role of ['newsroom', 'front-line', 'second-look']) await prepares(maud, role, purpose(role));
  await maud.goto('/workshop/release');
  const changes = maud.getByRole('region', { name: 'What changes for whom' });
  await loads(maud, () => maud.getByRole('link', { name: /^Leave it for later: newsroom anew/ }).click());
  await expect(changes.getByRole('article')).toHaveCount(2);
  await expect(changes).toContainText('newsroom anew: 2 changes stay prepared');
  // All but one again, and the whole.
  await loads(maud, () => maud.getByRole('link', { name: /^Take it in again: newsroom anew/ }).click());
  await expect(changes.getByRole('article')).toHaveCount(3);
  await loads(maud, () => maud.getByRole('link', { name: /^Only this: second-look anew/ }).click());
  await expect(changes.getByRole('article')).toHaveCount(1);
  await maud.getByRole('button', { name: 'Go live with these' }).click();
  await loads(maud, () => maud.getByRole('button', { name: 'Go live now' }).click());
  await expect(maud.getByText('It is in force')).toBeVisible();
  await maud.goto('/workshop/release');
  await expect(changes.getByRole('article')).toHaveCount(2);
  await expect(changes.getByRole('article', { name: 'second-look anew' })).toHaveCount(0);
  // What changed since the first release, for whom: what went live, and none of what waits.
  await maud.goto('/workshop/releases');
  await loads(maud, () => maud.getByRole('link', { name: 'What changed since release 1' }).click());
  await expect(maud.getByRole('heading', { level: 1 })).toHaveText('What changed since release 1, and for whom?');
  await expect(changes.getByRole('article', { name: 'second-look anew' })).toBeVisible();
  await expect(changes.getByRole('article', { name: 'newsroom anew' })).toHaveCount(0);
  await expect(maud.getByRole('button', { name: /^Go / })).toHaveCount(0);
  await maud.context().close();
});
