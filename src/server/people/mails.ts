import { desc, eq } from 'drizzle-orm';
import type { Tx } from '../db/client';
import { mails } from '../db/schema';
import type { Access } from '../gate/access';

/**
 * Puts a mail into the outbox: the stand-in for a mail service. Nothing leaves this machine, and no secret stands in
 * it.
 */
export const sendMail = (tx: Tx, siteId: number, mail: { to: string; subject: string; text: string }) =>
  tx.insert(mails).values({ siteId, ...mail });

export interface Mail {
  id: number;
  to: string;
  subject: string;
  text: string;
  madeAt: Date;
}

/** What would have been mailed, newest first. */
export function listMails(tx: Tx, access: Access, limit = 200): Promise<Mail[]> {
  return tx
    .select({ id: mails.id, to: mails.to, subject: mails.subject, text: mails.text, madeAt: mails.madeAt })
    .from(mails)
    .where(eq(mails.siteId, access.site.id))
    .orderBy(desc(mails.id))
    .limit(limit);
}
