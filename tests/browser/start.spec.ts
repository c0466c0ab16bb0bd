import { spawn, spawnSync, type ChildProcess } from 'node:child_process';
import { chmodSync, mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { expect, test } from '@playwright/test';
import { mustFindFreePort, isPortFree } from '../../scripts/cluster';
import { isReady } from './app';

// The README's first command, as a newcomer runs it: with folders and ports of its own.
test.describe.configure({ mode: 'serial' });

let data = '';
let port = 0;
test.beforeAll(async () => {
  data = mkdtempSync(join(tmpdir(), 'safe-room-start-'));
  chmodSync(data, 0o755);
  port = await mustFindFreePort(4900);
});
test.afterAll(() => {
  spawnSync('bash', ['./safe-room', 'reset', '--yes', '--data', data]);
  rmSync(data, { recursive: true, force: true });
});

const command = (...args: string[]) =>
  spawnSync('bash', ['./safe-room', ...args, '--data', data], { encoding: 'utf8' });

async function start(
  ...args: string[]
): Promise<{ process: ChildProcess; said: string; ended: Promise<number | null> }> {
  const started = spawn('bash', ['./safe-room', 'start', '--port', String(port), '--data', data, ...args], {
    stdio: ['ignore', 'pipe', 'pipe'],
  });
  let said = '';
  const ended = new Promise<number | null>((end) => started.once('exit', end));
  await new Promise<void>((ready, failed) => {
    const hear = (bytes: Buffer) => {
      said += bytes.toString();
      if (said.includes('Ctrl-C stops it.')) ready();
    };
    started.stdout.on('data', hear);
    started.stderr.on('data', hear);
    void ended.then((code) => failed(new Error(`ended with ${code}: ${said}`)));
  });
  return { process: started, said, ended };
}

test('start makes its own database, says who can sign in, and Ctrl-C stops everything', async ({ page }) => {
  const { process: running, said, ended } = await start();
  expect(said).toContain('Making a PostgreSQL cluster of its own');
  expect(said).toContain(`Safe Room is ready:  http://127.0.0.1:${port}`);
  expect(said).toMatch(/ines@larkhaven\.example +late-boat-again/);
  await page.goto(`http://127.0.0.1:${port}/`);
  await expect(page.getByRole('heading', { level: 1 })).toHaveText('Three harbours, one short crossing');
  expect(command('status').stdout).toContain(`Safe Room runs at http://127.0.0.1:${port}.`);
  expect(command('start', '--port', String(port)).stderr).toContain('Safe Room runs already');
  expect(command('reset').stderr).toContain('Safe Room is running. Stop it first');
  running.kill('SIGINT');
  expect(await ended).toBe(0);
  expect(await isPortFree(port)).toBe(true);
  const status = command('status');
  expect([status.status, status.stdout]).toEqual([3, '  Safe Room is not running.\n']);
});

test('started again it keeps the data, and stop ends it from elsewhere', async ({ page }) => {
  const { said, ended } = await start();
  expect(said).not.toContain('Making a PostgreSQL cluster');
  await page.goto(`http://127.0.0.1:${port}/sign-in`);
  await page.getByRole('button', { name: /^Ines Varga/ }).click();
  await expect(page.getByRole('heading', { level: 1 })).toContainText('Ines');
  expect(command('stop').stdout).toContain('Safe Room is stopping.');
  expect(await ended).toBe(0);
});

test('the plan goes out on the command line and comes in again, while it runs and while it does not', () => {
  const plan = command('plan', 'export').stdout;
  expect(JSON.parse(plan)).toMatchObject({ format: 'safe-room-plan/1' });
  expect(command('plan', 'export', '--as', 'csv', '--live').stdout).toMatch(
    /^role,permission,branch,effect,own,layouts,states,only,fields\r\nkeyholder,\*,,allow,,,,,\r\n/,
  );
  expect(command('plan', 'export', '--as', 'song').stderr).toContain('There is no format "song".');
  const file = join(data, 'plan.json');
  writeFileSync(file, plan.replace('"name": "Newsroom"', '"name": "Press room"'));
  const asked = command('plan', 'import', file);
  expect(asked.stdout).toContain('The role is now called “Press room”.');
  expect(asked.stderr).toContain('Run it in a terminal, or add --yes.');
  expect(command('plan', 'export').stdout).toBe(plan);
  expect(command('plan', 'import', file, '--yes').stdout).toContain('It is prepared.');
  expect(command('plan', 'export').stdout).toContain('Press room');
  expect(command('plan', 'export', '--live').stdout).not.toContain('Press room');
  writeFileSync(file, '{"format":"safe-room-plan/1","roles":[],"apart":[]}');
  const bad = command('plan', 'import', file, '--yes');
  expect([bad.status, bad.stderr]).toEqual([1, expect.stringContaining('$.roles: this should be at least 1')]);
});

test('reset asks, or takes --yes; without the demo a one-time link makes the first keyholder', async ({ page }) => {
  expect(command('reset').stderr).toContain('This asks first.');
  expect(command('reset', '--yes').stdout).toContain('All data is deleted.');
  const { process: running, said, ended } = await start('--no-demo');
  expect(said).not.toContain('larkhaven');
  const link = /http:\S+set-up\?token=\S+/.exec(said)?.[0] ?? '';
  await page.goto(link);
  await isReady(page);
  await page.getByLabel('Your name').fill('Nell Strand');
  await page.getByLabel('Mail address').fill('nell@example.org');
  await page.getByLabel('Password').fill('a good long one');
  await page.getByRole('button', { name: 'Make me the keyholder' }).click();
  await expect(page).toHaveURL(/\/workshop$/);
  await expect(page.getByRole('list', { name: 'Roles' })).toContainText('Nell Strand');
  const again = await page.goto(link);
  expect(again?.status()).toBe(403);
  await expect(page.getByText('It was used already, is too old or is incomplete.')).toBeVisible();
  await page.goto(`http://127.0.0.1:${port}/sign-in`);
  await expect(page.getByRole('region', { name: 'People of the demo' })).toHaveCount(0);
  running.kill('SIGTERM');
  expect(await ended).toBe(0);
});

test('what cannot be done is said in a sentence', () => {
  for (const [args, words] of [
    [['start', '--port', '99999'], '"99999" is not a port; choose a number from 1 to 65535.'],
    [['dance'], 'There is no command "dance".'],
    [['start', '--colour', 'red'], "Unknown option '--colour'"],
  ] as const) {
    const { status, stderr } = spawnSync('bash', ['./safe-room', ...args], { encoding: 'utf8' });
    expect(status).toBe(1);
    expect(stderr).toContain(words);
    expect(stderr).not.toContain('    at ');
  }
});
