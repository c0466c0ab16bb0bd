import { hash, verify } from '@node-rs/argon2';
import { ZxcvbnFactory } from '@zxcvbn-ts/core';
import * as common from '@zxcvbn-ts/language-common';
import * as english from '@zxcvbn-ts/language-en';
import { Problem, problemAt } from './problems';

/**
 * argon2id with the parameters of the OWASP Password Storage Cheat Sheet: 19 MiB, 2 passes, 1 lane (value from memory).
 */
const OPTIONS = { memoryCost: 19_456, timeCost: 2, parallelism: 1 };
/** Checks under way at once, the waiting ones included; more would only make everybody wait. */
const MOST_AT_ONCE = 40;

/** Of 0 to 4; 3 withstands guessing at the speed a stolen database allows (the estimator's own scale). */
const STRONG_ENOUGH = 3;
let estimator: ZxcvbnFactory | undefined;
const getEstimator = () =>
  (estimator ??= new ZxcvbnFactory({
    dictionary: { ...common.dictionary, ...english.dictionary },
    graphs: common.adjacencyGraphs,
    translations: english.translations,
  }));

/**
 * Refuses a password that is on the lists of much used ones, easy to guess, or made of what everybody knows of the
 * person.
 */
export function assertStrong(password: string, person: { name: string; email: string }): void {
  const known = [person.email, ...person.email.split(/[@.]/), person.name, ...person.name.split(/\s+/)].filter(
    (word) => word.length > 2,
  );
  const { score } = getEstimator().check(password, known);
  if (score >= STRONG_ENOUGH && !known.some((word) => word.toLowerCase() === password.trim().toLowerCase())) return;
  throw problemAt('password', 'password-weak');
}

let running = 0;
/** Hashing takes a processor and 19 MiB each: no more at once than can be answered soon. */
async function bounded<T>(work: () => Promise<T>): Promise<T> {
  if (running >= MOST_AT_ONCE) throw new Problem('many-sign-in');
  running++;
  try {
    return await work();
  } finally {
    running--;
  }
}

export const hashPassword = (password: string): Promise<string> => bounded(() => hash(password, OPTIONS));

let decoy: Promise<string> | undefined;
/** Takes the same time whether or not there is such a person, so that the answer gives nothing away. */
export async function checkPassword(passwordHash: string | null | undefined, password: string): Promise<boolean> {
  const against = passwordHash ?? (await (decoy ??= hashPassword('nobody has this password')));
  const right = await bounded(() => verify(against, password));
  return right && typeof passwordHash === 'string';
}
