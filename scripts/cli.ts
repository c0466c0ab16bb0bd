// The commands of ./safe-room. The shell script beside it has made sure of Node.js and the packages.
import { spawn, spawnSync, type ChildProcess } from 'node:child_process';
import { existsSync, readFileSync, rmSync, mkdirSync, writeFileSync } from 'node:fs';
import { join, resolve } from 'node:path';
import { createInterface } from 'node:readline/promises';
import { parseArgs } from 'node:util';
import { DEMO_PEOPLE } from '../src/demo/people';
import { buildWhenOld } from './build';
import { appUrl, CommandFault, isPortFree, isRunning, startCluster, stopCluster } from './cluster';
import { acceptFromInput, decideFromFile, resolveFromFile } from './decide';
import { exportPlan, importPlan } from './plan';
import { runTests } from './test';
import { answerWhere } from './where';

const USAGE = `usage: ./safe-room COMMAND [options]

  start    start Safe Room with its demo data (the first time this installs what is missing)
  stop     stop it
  status   say whether it runs, and where
  reset    delete all data (asks first)
  test     pass all tests
  decide   answer questions about access from a bundle, without database or server
  toolbar  answer which tools somebody has in a field, from a bundle, likewise
  accept   answer whether a change of a text is accepted with some tools, likewise
  where    answer “Where do I…?” from the demo’s plan, without database or server
  plan     export the plan, or import one: plan export, plan import FILE

  --port N       port of the web address (4400)
  --data DIR     folder for the database (.data)
  --no-demo      start with an empty site and print a one-time link for the first keyholder
  --origin URL   where people reach it when it stands behind a proxy: https://office.example.org
  --trust-proxies LIST  addresses or networks of proxies whose word on who asks is believed
  --bundle FILE  the bundle to decide by; questions come as JSON lines on standard input (decide, toolbar)
  --role ID      as somebody with this role would be answered; keyholder unless told (where)
  --as FORMAT    json, csv, bundle, schema or bundle-schema (plan export); json unless told
  --live         the plan in force, not the prepared one (plan export)
  --yes          do not ask (reset, plan import)`;

const say = (words: string) => console.log(`  ${words}`);

async function ask(question: string): Promise<boolean> {
  if (!process.stdin.isTTY) throw new CommandFault('This asks first. Run it in a terminal, or add --yes.');
  const line = createInterface({ input: process.stdin, output: process.stdout });
  const answer = await line.question(question);
  line.close();
  return /^y(es)?$/i.test(answer.trim());
}

interface State {
  pid: number;
  port: number;
}
const stateFile = (data: string) => join(data, 'running.json');
function findState(data: string): State | undefined {
  if (!existsSync(stateFile(data))) return undefined;
  const state = JSON.parse(readFileSync(stateFile(data), 'utf8')) as State;
  try {
    process.kill(state.pid, 0);
    return state;
  } catch {
    return undefined;
  }
}

async function start(
  data: string,
  port: number,
  demo: boolean,
  more: { origin: string | undefined; proxies: string | undefined },
): Promise<void> {
  const running = findState(data);
  if (running)
    throw new CommandFault(
      `Safe Room runs already, at http://127.0.0.1:${running.port}. Stop it with ./safe-room stop.`,
    );
  if (!(await isPortFree(port)))
    throw new CommandFault(
      `Port ${port} is taken by another program. Choose another: ./safe-room start --port ${port + 1}`,
    );
  mkdirSync(data, { recursive: true });
  const cluster = await startCluster(data, say);
  let server: ChildProcess | undefined;
  let ending = false;
  const end = (code: number) => {
    if (ending) return;
    ending = true;
    console.log('\n  Stopping');
    const finish = () => {
      rmSync(stateFile(data), { force: true });
      if (cluster.started) stopCluster(data);
      process.exit(code);
    };
    if (!server || server.exitCode !== null) return finish();
    server.once('exit', finish);
    server.kill('SIGTERM');
  };
  process.on('SIGINT', () => end(0));
  process.on('SIGTERM', () => end(0));
  try {
    const owner = cluster.url.replace(/\/postgres$/, '/safe_room');
    const env = { ...process.env, DATABASE_URL: owner };
    say('Bringing the database up to date');
    const prepared = spawnSync(
      process.execPath,
      ['--import', 'tsx', 'scripts/database.ts', ...(demo ? [] : ['--no-demo'])],
      { encoding: 'utf8', env },
    );
    if (prepared.status !== 0) throw new CommandFault(`The database could not be prepared:\n${prepared.stderr}`);
    const facts = JSON.parse(prepared.stdout.trim().split('\n').at(-1) ?? '{}') as {
      fresh: boolean;
      demo: boolean;
      token?: string;
    };
    buildWhenOld(say);
    say('Starting Safe Room');
    server = spawn(process.execPath, ['scripts/serve.mjs'], {
      stdio: ['ignore', 'inherit', 'inherit', 'ipc'],
      env: {
        ...env,
        DATABASE_URL: appUrl(owner),
        HOST: '127.0.0.1',
        PORT: String(port),
        ...(more.origin && { ORIGIN: more.origin }),
        ...(more.proxies && { TRUSTED_PROXIES: more.proxies }),
      },
    });
    // Ctrl-C reaches the whole group; the server ends itself, and this command waits for it.
    await new Promise<void>((listening, failed) => {
      server?.once('message', () => listening());
      server?.once('exit', (code) => failed(new CommandFault(`Safe Room stopped with code ${code}.`)));
    });
    server.on('exit', (code) => end(code ?? 1));
    writeFileSync(stateFile(data), JSON.stringify({ pid: process.pid, port } satisfies State));
    console.log(
      `\n  Safe Room is ready:  http://127.0.0.1:${port}\n  Sign in at           http://127.0.0.1:${port}/sign-in\n`,
    );
    if (facts.demo)
      for (const person of DEMO_PEOPLE)
        console.log(`    ${person.email.padEnd(26)} ${person.password.padEnd(20)} ${person.does}`);
    if (facts.token)
      console.log(
        `  Make the first keyholder with this link (works once, for a day):\n    http://127.0.0.1:${port}/set-up?token=${facts.token}`,
      );
    console.log('\n  Ctrl-C stops it.');
  } catch (error) {
    if (cluster.started) stopCluster(data);
    throw error;
  }
}

function stop(data: string): void {
  const state = findState(data);
  if (state) {
    process.kill(state.pid, 'SIGTERM');
    say('Safe Room is stopping.');
  } else if (stopCluster(data)) say('PostgreSQL stopped; Safe Room was not running.');
  else say('Safe Room is not running.');
}

async function reset(data: string, yes: boolean): Promise<void> {
  if (findState(data)) throw new CommandFault('Safe Room is running. Stop it first: ./safe-room stop');
  if (!existsSync(data)) return say('There is no data to delete.');
  if (!existsSync(join(data, 'pg'))) throw new CommandFault(`${data} holds no data of Safe Room; nothing was deleted.`);
  if (!yes && !(await ask(`Delete everything in ${resolve(data)}? This cannot be taken back. [y/N] `)))
    return say('Nothing was deleted.');
  stopCluster(data);
  for (const name of ['pg', 'pg.password', 'pg.port', 'running.json'])
    rmSync(join(data, name), { recursive: true, force: true });
  say('All data is deleted.');
}

/** Runs something with the database there, started for the while if it is not running. */
async function withDatabase(data: string, run: () => Promise<void>): Promise<void> {
  if (!existsSync(join(data, 'pg')))
    throw new CommandFault(`There is no data in ${data} yet. Start Safe Room once: ./safe-room start`);
  const cluster = await startCluster(data, () => undefined);
  process.env['DATABASE_URL'] = appUrl(cluster.url.replace(/\/postgres$/, '/safe_room'));
  try {
    await run();
  } finally {
    if (cluster.started) stopCluster(data);
  }
}

try {
  const { values, positionals } = parseArgs({
    allowPositionals: true,
    options: {
      port: { type: 'string', default: '4400' },
      data: { type: 'string', default: '.data' },
      'no-demo': { type: 'boolean', default: false },
      yes: { type: 'boolean', default: false },
      bundle: { type: 'string' },
      role: { type: 'string', default: 'keyholder' },
      origin: { type: 'string' },
      'trust-proxies': { type: 'string' },
      as: { type: 'string', default: 'json' },
      live: { type: 'boolean', default: false },
      help: { type: 'boolean', short: 'h', default: false },
    },
  });
  const port = Number(values.port);
  if (!Number.isInteger(port) || port < 1 || port > 65_535)
    throw new CommandFault(`"${values.port}" is not a port; choose a number from 1 to 65535.`);
  const data = resolve(values.data);
  const [command, ...rest] = positionals;
  if (values.help || !command) console.log(USAGE);
  else if (command === 'start')
    await start(data, port, !values['no-demo'], { origin: values.origin, proxies: values['trust-proxies'] });
  else if (command === 'stop') stop(data);
  else if (command === 'status') {
    const state = findState(data);
    say(
      state
        ? `Safe Room runs at http://127.0.0.1:${state.port}.`
        : isRunning(data)
          ? 'PostgreSQL runs, Safe Room does not.'
          : 'Safe Room is not running.',
    );
    if (!state) process.exitCode = 3;
  } else if (command === 'reset') await reset(data, values.yes);
  else if (command === 'decide' || command === 'toolbar') {
    if (!values.bundle) throw new CommandFault(`Say which bundle: ./safe-room ${command} --bundle FILE`);
    process.exitCode = (command === 'decide' ? decideFromFile : resolveFromFile)(values.bundle);
  } else if (command === 'accept') process.exitCode = acceptFromInput();
  else if (command === 'where') answerWhere(values.role);
  else if (command === 'plan' && rest[0] === 'export')
    await withDatabase(data, () => exportPlan(values.as, values.live));
  else if (command === 'plan' && rest[0] === 'import' && rest[1])
    await withDatabase(data, () => importPlan(rest[1] ?? '', values.yes ? () => Promise.resolve(true) : ask));
  else if (command === 'test') process.exitCode = await runTests();
  else throw new CommandFault(`There is no command "${command}".\n\n${USAGE}`);
} catch (error) {
  const isUsage = error instanceof TypeError && 'code' in error && String(error.code).startsWith('ERR_PARSE_ARGS');
  // One line, whatever it was; where it came from is told to whoever asks.
  if (process.env['LOG_LEVEL'] === 'debug') console.error(error);
  const message = error instanceof Error ? error.message : String(error);
  console.error(
    `safe-room: ${error instanceof CommandFault || isUsage ? message : `something went wrong: ${message.split('\n')[0]} (LOG_LEVEL=debug tells more)`}`,
  );
  process.exitCode = 1;
}
