import { spawn } from 'node:child_process';
import { existsSync, mkdtempSync, readFileSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';

/** What came of a step: how many passed, and of each that failed its name and why. */
interface Outcome {
  passed: number;
  failures: string[];
}

const env = { ...process.env, ASTRO_TELEMETRY_DISABLED: '1', FORCE_COLOR: '0' };
const bin = (name: string) => join('node_modules', '.bin', name);

/** Runs a program to its end; gives its exit code and all it said. */
const run = (
  command: string,
  args: string[],
  more: Record<string, string> = {},
): Promise<{ code: number; said: string }> =>
  new Promise((done) => {
    let said = '';
    const child = spawn(command, args, { env: { ...env, ...more }, stdio: ['ignore', 'pipe', 'pipe'] });
    for (const stream of [child.stdout, child.stderr])
      stream.on('data', (data: Buffer) => {
        said += data.toString();
      });
    child.once('error', (error) => {
      said += error.message;
    });
    child.once('close', (code) => done({ code: code ?? 1, said }));
  });

/** The first lines of a text, for the summary at the end. */
const begin = (text: string, lines = 5) =>
  text
    .replaceAll(/\u001b\[[0-9;]*m/g, '')
    .split('\n')
    .map((line) => line.trimEnd())
    .filter(Boolean)
    .slice(0, lines)
    .join('\n    ');

/** A check that passes or fails as a whole. */
const check = (command: string, args: string[]) => async (): Promise<Outcome & { said: string }> => {
  const { code, said } = await run(command.includes('/') ? command : bin(command), args);
  return code === 0 ? { passed: 1, failures: [], said } : { passed: 0, failures: [begin(said, 8)], said };
};

interface VitestResults {
  numPassedTests: number;
  testResults: {
    name: string;
    message: string;
    assertionResults: { fullName: string; status: string; failureMessages: string[] }[];
  }[];
}
/** Of a test that took too long the runner tells only where it begins. */
const reasonOf = (messages: readonly string[]) =>
  messages
    .map((message) => (message.startsWith('Error: STACK_TRACE_ERROR') ? 'It took longer than its limit.' : message))
    .join('\n');
const vitest = (project: string, folder: string) => async (): Promise<Outcome & { said: string }> => {
  const file = join(folder, `${project}.json`);
  const { code, said } = await run(bin('vitest'), [
    'run',
    '--project',
    project,
    '--reporter=default',
    '--reporter=json',
    `--outputFile.json=${file}`,
  ]);
  const results = JSON.parse(readFileSync(file, 'utf8')) as VitestResults;
  const failures = results.testResults.flatMap((suite) => {
    const tests = suite.assertionResults
      .filter((test) => test.status === 'failed')
      .map((test) => `${test.fullName}\n    ${begin(reasonOf(test.failureMessages))}`);
    return tests.length === 0 && suite.message ? [`${suite.name}\n    ${begin(suite.message)}`] : tests;
  });
  return {
    passed: results.numPassedTests,
    failures: failures.length === 0 && code !== 0 ? [begin(said.slice(-2000), 12)] : failures,
    said,
  };
};

interface PlaywrightSuite {
  title: string;
  suites?: PlaywrightSuite[];
  specs: {
    title: string;
    tests: {
      status: string;
      results: { error?: { message?: string }; attachments?: { name: string; path?: string }[] }[];
    }[];
  }[];
}
/** What stood out on the screen when a test failed: what had the focus, what was open, what it told. */
function screenAt(attachments: { name: string; path?: string }[] = []): string {
  const path = attachments.find(({ name }) => name === 'error-context')?.path;
  if (path === undefined || !existsSync(path)) return '';
  const lines = readFileSync(path, 'utf8').split('\n');
  const telling = lines.filter((line) =>
    /\[active\]|^\s*- (alert|alertdialog|dialog|listbox|option|status)\b/.test(line),
  );
  return telling.length === 0
    ? ''
    : `On the screen: ${telling
        .slice(0, 5)
        .map((line) => line.trim().slice(2, 90))
        .join(' · ')}`;
}

const playwright = (folder: string) => async (): Promise<Outcome & { said: string }> => {
  const file = join(folder, 'browser.json');
  const { code, said } = await run(bin('playwright'), ['test'], { PLAYWRIGHT_JSON_OUTPUT_NAME: file });
  const { suites, errors } = JSON.parse(readFileSync(file, 'utf8')) as {
    suites: PlaywrightSuite[];
    errors: { message?: string }[];
  };
  let passed = 0;
  const failures = errors.map((error) => begin(error.message ?? 'an error without words'));
  const visit = (suite: PlaywrightSuite): void => {
    for (const spec of suite.specs)
      for (const test of spec.tests) {
        if (test.status === 'expected') passed++;
        else
          failures.push(
            `${suite.title}: ${spec.title} (${test.status})\n    ${[
              ...test.results.map(({ attachments }) => screenAt(attachments)).filter(Boolean),
              begin(test.results.map((result) => result.error?.message ?? '').join('\n'), 8),
            ].join('\n    ')}`,
          );
      }
    suite.suites?.forEach(visit);
  };
  suites.forEach(visit);
  return { passed, failures: failures.length === 0 && code !== 0 ? [begin(said.slice(-2000), 12)] : failures, said };
};

/** All that failed by name, each with as much of its reason as leaves room for the others. */
function inShort(failed: readonly string[]): string {
  const ROOM = 24;
  const each = Math.max(2, Math.floor(ROOM / failed.length));
  const shown = failed.slice(0, ROOM / 2).map(
    (one) =>
      `- ${one
        .split('\n')
        .slice(0, each)
        .map((line) => line.slice(0, 300))
        .join('\n')}`,
  );
  return [
    ...shown,
    ...(failed.length > shown.length ? [`- and ${failed.length - shown.length} more, named above`] : []),
  ].join('\n');
}

/**
 * Passes every check and test and counts; what fails does not stop the rest. Three lanes run side by side, since a
 * browser and a database wait half of the time: the application is built and tried in the browser; the sources are
 * checked; the units and the server are tested. At the end it says what failed and why, and how long each took.
 */
export async function runTests(): Promise<number> {
  const folder = mkdtempSync(join(tmpdir(), 'safe-room-results-'));
  const lines: string[] = [];
  const failed: string[] = [];
  let passed = 0;
  const pass = async (name: string, step: () => Promise<Outcome & { said: string }>): Promise<void> => {
    const started = performance.now();
    const outcome = await step().catch((error: unknown): Outcome & { said: string } => ({
      passed: 0,
      failures: [error instanceof Error ? error.message : String(error)],
      said: '',
    }));
    passed += outcome.passed;
    failed.push(...outcome.failures.map((why) => `${name}: ${why}`));
    lines.push(
      `${outcome.failures.length ? 'FAILED' : 'ok    '} ${name}: ${outcome.passed} passed, ${outcome.failures.length} failed (${Math.round((performance.now() - started) / 1000)} s)`,
    );
    process.stdout.write(`\n== ${name}\n${outcome.said}`);
  };
  let isBuilt: () => void = () => undefined;
  const built = new Promise<void>((done) => {
    isBuilt = done;
  });
  const browserLane = async () => {
    await pass('build', check(process.execPath, ['--import', 'tsx', 'scripts/build.ts']));
    isBuilt();
    await pass('browser tests', playwright(folder));
  };
  const checksLane = async () => {
    await pass('types of the core alone', check('tsc', ['-p', 'src/core/tsconfig.json']));
    await pass('import rules', check('depcruise', ['src', '--config', '.dependency-cruiser.cjs']));
    await pass('formatting', check('prettier', ['--check', '**/*.{ts,tsx,astro,js,mjs,cjs,css}']));
    await pass('unused code', check('knip', []));
    await pass('lint', check('eslint', ['.']));
    // After the build, which writes the same folder of generated types; the kills need what is built.
    await built;
    await pass('types', check('astro', ['check', '--minimumSeverity', 'warning']));
    await pass('kills', vitest('kills', folder));
  };
  const testsLane = async () => {
    await pass('unit tests', vitest('core', folder));
    await pass('server tests on PostgreSQL', vitest('server', folder));
  };
  await Promise.all([browserLane(), checksLane(), testsLane()]);
  rmSync(folder, { recursive: true, force: true });
  if (failed.length > 0) console.log(`\nWhat failed:\n${inShort(failed)}`);
  console.log(`\n${lines.join('\n')}\n\n${passed} passed, ${failed.length} failed`);
  return failed.length ? 1 : 0;
}
