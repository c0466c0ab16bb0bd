import { spawnSync } from 'node:child_process';
import { existsSync, readdirSync, statSync } from 'node:fs';
import { join } from 'node:path';
import { pathToFileURL } from 'node:url';
import { CommandFault } from './cluster';

/** Newest change among the sources the build is made from, in ms. */
function newest(path: string): number {
  if (!existsSync(path)) return 0;
  const stat = statSync(path);
  return stat.isDirectory() ? Math.max(0, ...readdirSync(path).map((name) => newest(join(path, name)))) : stat.mtimeMs;
}

/**
 * Builds the application, unless what is built is newer than all it is made from. Throws a CommandFault with what the
 * build said.
 */
export function buildWhenOld(say: (words: string) => void): void {
  const built = existsSync('dist/built') ? statSync('dist/built').mtimeMs : 0;
  const sources = Math.max(
    ...['src', 'public', 'scripts/compress.mjs', 'astro.config.mjs', 'package.json', 'package-lock.json'].map(newest),
  );
  if (built > sources) return;
  say('Building (about a minute)');
  const done = spawnSync('npm', ['run', '--silent', 'build'], {
    encoding: 'utf8',
    env: { ...process.env, ASTRO_TELEMETRY_DISABLED: '1' },
  });
  if (done.status !== 0) throw new CommandFault(`The build failed:\n${done.stdout}${done.stderr}`);
}

// By itself, beside other work, for the tests.
if (import.meta.url === pathToFileURL(process.argv[1] ?? '').href) buildWhenOld(console.log);
