import { hash, verify } from '@node-rs/argon2';
import { ZxcvbnFactory } from '@zxcvbn-ts/core';
import * as common from '@zxcvbn-ts/language-common';
import * as english from '@zxcvbn-ts/language-en';
import { Problem, problemAt } from './problems';

/**
 * argon2id with the parameters of the OWASP Password Storage Cheat Sheet: 19 MiB, 2 passes, 1 lane (value from memory).
 */
const OPTIONS = { memoryCost: 19_456, timeCost: 2, parallelism: 1 };
/** Hashes made at once, so that a processor is left for everybody else, and how many wait for it. */
const [AT_ONCE, MOST_WAITING] = [1, 40];

/** Of 0 to 4; 3 withstands guessing at the speed a stolen database allows (the estimator's own scale). */
const STRONG_ENOUGH = 3;
/** Letters a password needs besides what everybody knows, unless it is as long as several words. */
const [LETTERS_OF_ITS_OWN, LONG_ENOUGH_ANYWAY] = [5, 24];
/** Words that stand on every screen here. */
const MADE_HERE = ['safe', 'room', 'saferoom', 'workshop', 'password'];
const lettersOf = (text: string): string =>
  text
    .normalize('NFKD')
    .toLowerCase()
    .replaceAll(/[^\p{L}]/gu, '');
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
  // What everybody knows of the person, or of the website, is no secret with a number behind it either.
  const rest = [...known, ...MADE_HERE]
    .map(lettersOf)
    .filter((word) => word.length > 2)
    .sort((one, other) => other.length - one.length)
    .reduce((left, word) => left.replaceAll(word, ''), lettersOf(password));
  if (score >= STRONG_ENOUGH && (password.length >= LONG_ENOUGH_ANYWAY || rest.length >= LETTERS_OF_ITS_OWN)) return;
  throw problemAt('password', 'password-weak');
}

let running = 0;
const waiting: (() => void)[] = [];
/** Hashing takes a processor and 19 MiB each: no more at once than leaves room, nor more than can be answered soon. */
async function bounded<T>(work: () => Promise<T>): Promise<T> {
  if (running < AT_ONCE) running++;
  else {
    if (waiting.length >= MOST_WAITING) throw new Problem('many-sign-in');
    await new Promise<void>((turn) => waiting.push(turn));
  }
  try {
    return await work();
  } finally {
    const next = waiting.shift();
    if (next) next();
    else running--;
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
