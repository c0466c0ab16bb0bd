import { spawn, spawnSync } from 'node:child_process';
import { mkdtempSync, readFileSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';

interface Counts { passed: number; failed: number }

const env = { ...process.env, ASTRO_TELEMETRY_DISABLED: '1', FORCE_COLOR: '0' };
const run = (command: string, args: string[], more: Record<string, string> = {}): number => spawnSync(command, args, { stdio: 'inherit', env: { ...env, ...more } }).status ?? 1;
const bin = (name: string) => join('node_modules', '.bin', name);

/** A check that passes or fails as a whole; what it says is shown in one piece, since others run beside it. */
const check = (command: string, args: string[]): Promise<Counts> =>
  new Promise((done) => {
    let said = '';
    const child = spawn(bin(command), args, { env, stdio: ['ignore', 'pipe', 'pipe'] });
    for (const stream of [child.stdout, child.stderr]) stream.on('data', (data: Buffer) => { said += data.toString(); });
    child.once('error', (error) => { said += error.message; });
    child.once('close', (code) => {
      process.stdout.write(said);
      done(code === 0 ? { passed: 1, failed: 0 } : { passed: 0, failed: 1 });
    });
  });

function vitest(project: string, folder: string): Counts {
  const file = join(folder, `${project}.json`);
  const code = run(bin('vitest'), ['run', '--project', project, '--reporter=default', '--reporter=json', `--outputFile.json=${file}`]);
  const { numPassedTests, numFailedTests } = JSON.parse(readFileSync(file, 'utf8')) as { numPassedTests: number; numFailedTests: number };
  return { passed: numPassedTests, failed: Math.max(numFailedTests, code === 0 ? 0 : 1) };
}

function playwright(folder: string): Counts {
  const file = join(folder, 'browser.json');
  const code = run(bin('playwright'), ['test'], { PLAYWRIGHT_JSON_OUTPUT_NAME: file });
  const { stats } = JSON.parse(readFileSync(file, 'utf8')) as { stats: { expected: number; unexpected: number; flaky: number; skipped: number } };
  return { passed: stats.expected, failed: Math.max(stats.unexpected + stats.flaky + stats.skipped, code === 0 ? 0 : 1) };
}

/** Passes every check and test and counts; what fails does not stop the rest. The checks run side by side, the tests one kind after the other. */
export async function runTests(build: () => void): Promise<number> {
  const folder = mkdtempSync(join(tmpdir(), 'safe-room-results-'));
  const checks: [string, () => Promise<Counts>][] = [
    ['types of the core alone', () => check('tsc', ['-p', 'src/core/tsconfig.json'])],
    ['types', () => check('astro', ['check', '--minimumSeverity', 'warning'])],
    ['lint', () => check('eslint', ['.'])],
    ['import rules', () => check('depcruise', ['src', '--config', '.dependency-cruiser.cjs'])],
    ['unused code', () => check('knip', [])],
  ];
  const tests: [string, () => Counts][] = [
    ['unit tests', () => vitest('core', folder)],
    ['server tests on PostgreSQL', () => vitest('server', folder)],
    ['kills', () => vitest('kills', folder)],
    ['browser tests', () => { build(); return playwright(folder); }],
  ];
  const total: Counts = { passed: 0, failed: 0 };
  const pass = async (name: string, test: () => Counts | Promise<Counts>): Promise<string> => {
    console.log(`\n== ${name}`);
    const started = performance.now();
    let counts: Counts;
    try {
      counts = await test();
    } catch (error) {
      console.error(error instanceof Error ? error.message : error);
      counts = { passed: 0, failed: 1 };
    }
    total.passed += counts.passed;
    total.failed += counts.failed;
    return `${counts.failed ? 'FAILED' : 'ok    '} ${name}: ${counts.passed} passed, ${counts.failed} failed (${Math.round((performance.now() - started) / 1000)} s)`;
  };
  const lines = await Promise.all(checks.map(([name, test]) => pass(name, test)));
  for (const [name, test] of tests) lines.push(await pass(name, test));
  rmSync(folder, { recursive: true, force: true });
  console.log(`\n${lines.join('\n')}\n\n${total.passed} passed, ${total.failed} failed`);
  return total.failed ? 1 : 0;
}
