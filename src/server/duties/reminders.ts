import { and, between, eq, inArray, isNull, or, sql } from 'drizzle-orm';
import { dayKey, sayCalendarDay } from '@/core/words';
import { siteCalendar } from '../calendar';
import { now } from '../clock';
import type { Tx } from '../db/client';
import { assignments, duties, people, sites } from '../db/schema';
import { sendMail } from '../people/mails';

const DAY_MS = 86_400_000;
const LOOK_EVERY_MS = 10 * 60_000;
/** Whoever was given something a moment ago has just been mailed. */
const NEW_MS = DAY_MS / 2;

let lookedAt = 0;

/**
 * Mails whose turn it is the day before something is due, or on that day where nobody came by before; once for each
 * time it is due, and nobody who cannot come in. Asked with the answers of the back office. Gives how many mails.
 */
export async function remindOfDuties(tx: Tx, force = false): Promise<number> {
  const at = now();
  if (!force && at.getTime() - lookedAt < LOOK_EVERY_MS) return 0;
  lookedAt = at.getTime();
  let sent = 0;
  for (const site of await tx.select().from(sites)) {
    const [today, tomorrow] = [0, DAY_MS].map((ms) => dayKey(new Date(at.getTime() + ms), site.timeZone));
    const holding = tx
      .select({ id: assignments.personId })
      .from(assignments)
      .where(
        sql`coalesce(${assignments.fromAt} <= ${at.toISOString()}, true) and coalesce(${assignments.untilAt} > ${at.toISOString()}, true)`,
      );
    await tx.transaction(async (inner) => {
      // Two processes at once: the second finds nothing left to remind of.
      const due = await inner
        .update(duties)
        .set({ reminded: sql`${duties.due}` })
        .from(people)
        .where(
          and(
            eq(people.id, duties.whose),
            eq(duties.siteId, site.id),
            between(duties.due, today ?? '', tomorrow ?? ''),
            or(isNull(duties.doneAt), sql`${duties.every} is not null`),
            sql`${duties.reminded} is distinct from ${duties.due}`,
            sql`${duties.madeAt} < ${new Date(at.getTime() - NEW_MS).toISOString()}`,
            isNull(people.suspendedAt),
            inArray(people.id, holding),
          ),
        )
        .returning({ text: duties.text, due: duties.due, email: people.email });
      const { language } = siteCalendar(site);
      for (const { text, due: day, email } of due)
        await sendMail(inner, site.id, {
          to: email,
          subject: `${day === today ? 'Due today' : 'Due tomorrow'}: ${text}`,
          text: `${text}\n\nIt is your turn, until ${sayCalendarDay(day ?? '', language)}. It stands on Today, where you can tick it off or give it back.`,
        });
      sent += due.length;
    });
  }
  return sent;
}
