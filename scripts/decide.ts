// ./safe-room decide and ./safe-room toolbar, each with --bundle FILE, and ./safe-room accept: answer questions without
// database or server.
import { readFileSync } from 'node:fs';
import { answerOf, decide, openBundle, readQuestion } from '../src/core/access';
import { parseStrictly, type Fault } from '../src/core/json';
import { acceptChange, openToolBundle, readAcceptQuestion, readToolQuestion, resolveTools } from '../src/core/toolbar';
import { inventoryOf } from '../src/office';

type Read<T> = T | { ok: false; faults: Fault[] };

/**
 * Reads questions as JSON lines from standard input and writes answers as JSON lines. Gives the exit code: 2 when
 * anything is wrong with the bundle or a question, told one line a fault on standard error; then nothing is answered.
 */
function answerFromFile<B extends { ok: true }, Q>(
  file: string,
  open: (value: unknown) => Read<B>,
  read: (bundle: B, value: unknown) => Read<{ ok: true; question: Q }>,
  answer: (bundle: B, question: Q) => object,
): number {
  let text: string;
  try {
    text = readFileSync(file, 'utf8');
  } catch {
    console.error(`${file}: cannot be read`);
    return 2;
  }
  const json = parseStrictly(text);
  const bundle = json.ok ? open(json.value) : json;
  if (!bundle.ok) {
    for (const { path, message } of bundle.faults) console.error(`${path}: ${message}`);
    return 2;
  }
  return answerLines(
    (value) => read(bundle, value),
    (question) => answer(bundle, question),
  );
}

/** The same for questions that need no bundle. */
function answerLines<Q>(
  read: (value: unknown) => Read<{ ok: true; question: Q }>,
  answer: (question: Q) => object,
): number {
  const told: string[] = [];
  const questions: Q[] = [];
  readFileSync(0, 'utf8')
    .split('\n')
    .forEach((line, i) => {
      if (line.trim() === '') return;
      const value = parseStrictly(line);
      const asked = value.ok ? read(value.value) : value;
      if (asked.ok) questions.push(asked.question);
      else for (const { path, message } of asked.faults) told.push(`line ${i + 1}, ${path}: ${message}`);
    });
  if (told.length > 0) {
    console.error(told.join('\n'));
    return 2;
  }
  process.stdout.write(questions.map((question) => `${JSON.stringify(answer(question))}\n`).join(''));
  return 0;
}

/** May somebody do something there, and why. */
export const decideFromFile = (file: string): number =>
  answerFromFile(file, openBundle, readQuestion, ({ policy }, question) => answerOf(decide(policy, question)));

/** Which tools somebody has in a field, and which rule did what. */
export const resolveFromFile = (file: string): number =>
  answerFromFile(file, openToolBundle, readToolQuestion, ({ world }, { roles, spot }) => {
    const { tools, steps, missing } = resolveTools(world, roles, spot);
    return { tools, because: [...steps, ...missing] };
  });

/** Whether a change of a text is accepted with some tools, and what of it is not. */
export function acceptFromInput(): number {
  return answerLines(
    // The tools there are do not depend on a site.
    (value) => readAcceptQuestion(inventoryOf({ timeZone: 'UTC' }).tools, value),
    ({ before, after, hands }) => {
      if ('unfit' in after) return { accepted: false, faults: [{ construct: 'doc', path: after.unfit, why: 'unfit' }] };
      const faults = acceptChange(before, after, hands);
      return {
        accepted: faults.length === 0,
        faults: faults.map(({ construct, path, why }) => ({ construct, path, why })),
      };
    },
  );
}
