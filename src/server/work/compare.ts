import { existsSync } from 'node:fs';
import { resolve } from 'node:path';
import { Piscina } from 'piscina';
import type { FieldChange, Layout, PageContent } from '@/core/content';
import { getEntry } from '@/core/inventory';
import { inventory } from '@/office';
import { Problem } from '../gate/problems';

/** What ids in fields are called, as a worker can be given it. */
export interface KnownNames {
  pictures: (readonly [string, string])[];
  people: (readonly [string, string])[];
}
/** A content with the layout it is shown by. */
export type ShownContent = readonly [layout: string, content: PageContent];
export interface CompareWork {
  /** Those an item of its type can have. */
  layouts: readonly Layout[];
  before: ShownContent;
  after: ShownContent;
  names: KnownNames;
}

/** Bundled beside the built server; in the tests the source itself, which is translated first. */
const built = resolve('dist/compare-worker.mjs');
const isBuilt = import.meta.env?.PROD === true && existsSync(built);
const MOST_WAITING = 20;
const LONGEST_MS = isBuilt ? 10_000 : 120_000;

let pool: Piscina | undefined;
const getPool = () =>
  (pool ??= new Piscina({
    filename: isBuilt ? built : new URL('./compare-worker.ts', import.meta.url).href,
    ...(!isBuilt && { execArgv: ['--import', 'tsx'] }),
    minThreads: 0,
    maxThreads: 1,
    idleTimeout: 20_000,
  }));

/**
 * Compares two contents apart from everything else, so that long texts keep nobody waiting who does not ask for them.
 * Throws a Problem when too many ask at once, or when it takes too long.
 */
export async function compareApart(
  type: string,
  before: ShownContent,
  after: ShownContent,
  names: KnownNames,
): Promise<FieldChange[]> {
  // The pool's own bound does not count tasks that can be broken off.
  if (getPool().queueSize >= MOST_WAITING) throw new Problem('compare-too-long');
  try {
    return (await getPool().run(
      { layouts: getEntry(inventory.items, type).layouts, before, after, names } satisfies CompareWork,
      { signal: AbortSignal.timeout(LONGEST_MS) },
    )) as FieldChange[];
  } catch (error) {
    if (error instanceof Error && error.name === 'AbortError') throw new Problem('compare-too-long');
    throw error;
  }
}
