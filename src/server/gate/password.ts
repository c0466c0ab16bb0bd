import { hash, verify } from '@node-rs/argon2';

/** argon2id with the parameters of the OWASP Password Storage Cheat Sheet: 19 MiB, 2 passes, 1 lane (value from memory). */
const OPTIONS = { memoryCost: 19_456, timeCost: 2, parallelism: 1 };

export const PASSWORD = { min: 10, max: 200 };
export const hashPassword = (password: string): Promise<string> => hash(password, OPTIONS);

let decoy: Promise<string> | undefined;
/** Takes the same time whether or not there is such a person, so that the answer gives nothing away. */
export async function checkPassword(passwordHash: string | null | undefined, password: string): Promise<boolean> {
  const against = passwordHash ?? (await (decoy ??= hashPassword('nobody has this password')));
  const right = await verify(against, password);
  return right && typeof passwordHash === 'string';
}
