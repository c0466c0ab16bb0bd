// ./safe-room decide --bundle FILE: answers questions about a bundle, without database or server.
import { readFileSync } from 'node:fs';
import { answerOf, decide, openBundle, readQuestion, type Fault, type Question } from '../src/core/access';

/** What a text holds as JSON, or the fault in it. */
function parse(text: string): { ok: true; value: unknown } | { ok: false; faults: Fault[] } {
  try {
    return { ok: true, value: JSON.parse(text) };
  } catch (error) {
    return {
      ok: false,
      faults: [{ path: '$', message: `not JSON: ${error instanceof Error ? error.message : String(error)}` }],
    };
  }
}

/**
 * Reads questions as JSON lines from standard input and writes answers as JSON lines. Gives the exit code: 2 when anything is wrong
 * with the bundle or a question, told one line a fault on standard error; then nothing is answered.
 */
export function decideFromFile(file: string): number {
  const told: string[] = [];
  let text: string;
  try {
    text = readFileSync(file, 'utf8');
  } catch {
    console.error(`${file}: cannot be read`);
    return 2;
  }
  const json = parse(text);
  const bundle = json.ok ? openBundle(json.value) : json;
  if (!bundle.ok) {
    for (const { path, message } of bundle.faults) console.error(`${path}: ${message}`);
    return 2;
  }
  const questions: Question[] = [];
  readFileSync(0, 'utf8')
    .split('\n')
    .forEach((line, i) => {
      if (line.trim() === '') return;
      const value = parse(line);
      const read = value.ok ? readQuestion(bundle, value.value) : value;
      if (read.ok) questions.push(read.question);
      else for (const { path, message } of read.faults) told.push(`line ${i + 1}, ${path}: ${message}`);
    });
  if (told.length > 0) {
    console.error(told.join('\n'));
    return 2;
  }
  const chunk: string[] = [];
  for (const question of questions) chunk.push(`${JSON.stringify(answerOf(decide(bundle.policy, question)))}\n`);
  process.stdout.write(chunk.join(''));
  return 0;
}
