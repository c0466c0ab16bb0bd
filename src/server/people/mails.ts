import { and, desc, eq, exists, not, sql } from 'drizzle-orm';
import { KEYHOLDER } from '@/core/plan';
import type { Tx } from '../db/client';
import { assignments, mails, people } from '../db/schema';
import { isKeyholder, type Access } from '../gate/access';

/** Puts a mail into the outbox: the stand-in for a mail service. Nothing leaves this machine. */
export const sendMail = (tx: Tx, siteId: number, mail: { to: string; subject: string; text: string }) => tx.insert(mails).values({ siteId, ...mail });

export interface Mail { id: number; to: string; subject: string; text: string; madeAt: Date }

/** What would have been mailed, newest first. The links to keyholders are for keyholders only: whoever holds such a link holds the keys. */
export function listMails(tx: Tx, access: Access, limit = 200): Promise<Mail[]> {
  const toKeyholder = exists(tx.select({ one: sql`1` }).from(people).innerJoin(assignments, eq(assignments.personId, people.id)).where(and(sql`${people.email} = ${mails.to}`, eq(assignments.roleId, KEYHOLDER))));
  return tx
    .select({ id: mails.id, to: mails.to, subject: mails.subject, text: mails.text, madeAt: mails.madeAt })
    .from(mails)
    .where(and(eq(mails.siteId, access.site.id), isKeyholder(access.who) ? undefined : not(toKeyholder)))
    .orderBy(desc(mails.id))
    .limit(limit);
}
