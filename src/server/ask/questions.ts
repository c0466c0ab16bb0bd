import { and, desc, eq, ne, sql } from 'drizzle-orm';
import { askable, questionOf, SYNONYMS, type AskEntry } from '@/core/ask';
import { now } from '../clock';
import { listPages } from '../tree/tree';
import type { Tx } from '../db/client';
import { questions } from '../db/schema';
import type { Access } from '../gate/access';
import { notFound } from '../gate/problems';
import { type Inventory, ofInventory } from '@/core/inventory';

const kindsOf = ofInventory(
  (inventory): ReadonlyMap<string, ReadonlyMap<string, unknown>> =>
    new Map<string, ReadonlyMap<string, unknown>>([
      ['task', inventory.tasks],
      ['screen', inventory.screens],
      ['control', inventory.controls],
      ['widget', inventory.widgets],
      ['tool', inventory.tools],
      ['door', new Map(inventory.doors.map((door) => [door.id, door]))],
    ]),
);
const isThere = (inventory: Inventory, chosen: string): boolean => {
  const [kind = '', id = ''] = chosen.split(' ');
  return kindsOf(inventory).get(kind)?.has(id) ?? false;
};

/**
 * Everything somebody can ask for, and what was chosen most often for each question that was asked on this website.
 * Only questions in words that this person's own entries or the synonyms use are given: others may hold what somebody
 * else alone should know.
 */
export async function listAskable(
  tx: Tx,
  access: Access,
): Promise<{ entries: AskEntry[]; learned: Record<string, string> }> {
  const places = (await listPages(tx, access.site.id)).map((page) => page.place);
  const rows = await tx
    .select()
    .from(questions)
    .where(and(eq(questions.siteId, access.site.id), ne(questions.chosen, '')))
    .orderBy(questions.times)
    .limit(2000);
  const entries = askable({
    inventory: access.inventory,
    plan: access.plan,
    person: access.who,
    places,
    nowMs: now().getTime(),
  });
  const common = new Set(
    questionOf(
      [...SYNONYMS.flat(), ...entries.flatMap((entry) => [entry.name, entry.purpose, ...entry.said])].join(' '),
    ).split(' '),
  );
  return {
    entries,
    learned: Object.fromEntries(
      rows
        .filter((row) => row.question.split(' ').every((stem) => common.has(stem)))
        .map((row) => [row.question, row.chosen]),
    ),
  };
}

/**
 * Counts a question with what was chosen for it; null where nothing was found. Who asked is not kept. Runs in a
 * transaction.
 */
export async function keepQuestion(tx: Tx, access: Access, asked: string, chosen: string | null): Promise<void> {
  if (chosen !== null && !isThere(access.inventory, chosen)) throw notFound('What was chosen');
  const question = questionOf(asked);
  if (question === '') return;
  await tx
    .insert(questions)
    .values({ siteId: access.site.id, question, chosen: chosen ?? '', asked, askedAt: now() })
    .onConflictDoUpdate({
      target: [questions.siteId, questions.question, questions.chosen],
      set: { times: sql`${questions.times} + 1`, asked, askedAt: now() },
    });
}

export interface MissedQuestion {
  asked: string;
  times: number;
  at: Date;
}
/** What was asked and found nothing, newest first: words that some task's own words lack. */
export const listMissed = (tx: Tx, siteId: number): Promise<MissedQuestion[]> =>
  tx
    .select({ asked: questions.asked, times: questions.times, at: questions.askedAt })
    .from(questions)
    .where(and(eq(questions.siteId, siteId), eq(questions.chosen, '')))
    .orderBy(desc(questions.askedAt))
    .limit(12);
