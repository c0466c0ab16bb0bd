import { hash, verify } from '@node-rs/argon2';
import { z } from 'zod';

/** argon2id with the parameters of the OWASP Password Storage Cheat Sheet: 19 MiB, 2 passes, 1 lane (value from memory). */
const OPTIONS = { memoryCost: 19_456, timeCost: 2, parallelism: 1 };

const [MIN, MAX] = [10, 200];
export const passwordSchema = z.string().min(MIN, `A password needs at least ${MIN} characters.`).max(MAX, `A password has at most ${MAX} characters.`);
export const hashPassword = (password: string): Promise<string> => hash(password, OPTIONS);

let decoy: Promise<string> | undefined;
/** Takes the same time whether or not there is such a person, so that the answer gives nothing away. */
export async function checkPassword(passwordHash: string | null | undefined, password: string): Promise<boolean> {
  const against = passwordHash ?? (await (decoy ??= hashPassword('nobody has this password')));
  const right = await verify(against, password);
  return right && typeof passwordHash === 'string';
}
