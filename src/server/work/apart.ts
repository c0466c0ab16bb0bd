import { existsSync } from 'node:fs';
import { resolve } from 'node:path';
import { Piscina } from 'piscina';
import { Problem } from '../gate/problems';

/** Bundled beside the built server; in the tests the source itself, which is translated first. */
const built = resolve('dist/worker.mjs');
const isBuilt = import.meta.env?.PROD === true && existsSync(built);
const MOST_WAITING = 20;
const LONGEST_MS = isBuilt ? 10_000 : 120_000;

let pool: Piscina | undefined;
const getPool = () =>
  (pool ??= new Piscina({
    filename: isBuilt ? built : new URL('./worker.ts', import.meta.url).href,
    ...(!isBuilt && { execArgv: ['--import', 'tsx'] }),
    minThreads: 0,
    maxThreads: 1,
    idleTimeout: 20_000,
  }));

/**
 * Does long work apart from everything else (`worker.ts`), so that it keeps nobody waiting who does not ask for it.
 * Throws a Problem when too many ask at once, or when it takes too long.
 */
export async function runApart(name: 'compare' | 'accept', work: unknown): Promise<unknown> {
  const tooLong = () => new Problem(name === 'compare' ? 'compare-too-long' : 'busy');
  // The pool's own bound does not count tasks that can be broken off.
  if (getPool().queueSize >= MOST_WAITING) throw tooLong();
  try {
    return (await getPool().run({ name, work }, { signal: AbortSignal.timeout(LONGEST_MS) })) as unknown;
  } catch (error) {
    if (error instanceof Error && error.name === 'AbortError') throw tooLong();
    throw error;
  }
}
