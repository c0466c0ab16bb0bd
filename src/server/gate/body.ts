import { Problem } from './problems';

const MAX_BODY = 2_000_000;
/** Deeper than any text that is written by hand: forty lists in one another. */
const MAX_DEPTH = 400;
const tooLarge = () => new Problem('body-too-large');

/** The body as text, given up as soon as it is too long. */
async function readText(request: Request): Promise<string> {
  if (Number(request.headers.get('content-length') ?? 0) > MAX_BODY) throw tooLarge();
  const reader = request.body?.getReader();
  const decoder = new TextDecoder();
  let text = '';
  let bytes = 0;
  for (let part = await reader?.read(); part && !part.done; part = await reader?.read()) {
    const chunk = part.value as Uint8Array;
    bytes += chunk.byteLength;
    if (bytes > MAX_BODY) {
      await reader?.cancel().catch(() => undefined);
      throw tooLarge();
    }
    text += decoder.decode(chunk, { stream: true });
  }
  return text + decoder.decode();
}

/** Text without what no database can keep: null characters go, halves of a character become a replacement character. */
export const cleanText = (text: string): string =>
  text
    .replaceAll('\0', '')
    .replace(/[\uD800-\uDBFF](?![\uDC00-\uDFFF])|(?<![\uD800-\uDBFF])[\uDC00-\uDFFF]/g, '\uFFFD');

/** The same value with every text in it clean; refuses what is nested deeper than anything here is. */
export function cleanValue(value: unknown): unknown {
  const box: { value: unknown } = { value };
  const stack: { holder: Record<string | number, unknown>; key: string | number; depth: number }[] = [
    { holder: box, key: 'value', depth: 0 },
  ];
  for (let next = stack.pop(); next; next = stack.pop()) {
    const { holder, key, depth } = next;
    const here = holder[key];
    if (typeof here === 'string') holder[key] = cleanText(here);
    else if (typeof here === 'object' && here !== null) {
      if (depth > MAX_DEPTH) throw new Problem('nested-too-deep');
      for (const inner of Object.keys(here)) stack.push({ holder: here as never, key: inner, depth: depth + 1 });
    }
  }
  return box.value;
}

/** Reads a JSON body; a fault says what is wrong with it. */
export async function readBody(request: Request): Promise<unknown> {
  if (request.method === 'GET' || request.method === 'HEAD') return {};
  if (!/^application\/json\b/.test(request.headers.get('content-type') ?? '')) throw new Problem('not-json-type');
  const text = await readText(request);
  let value: unknown;
  try {
    value = text === '' ? {} : JSON.parse(text);
  } catch {
    throw new Problem('not-json');
  }
  return cleanValue(value);
}

/** What an address asks for after its question mark. */
export const readQuery = (request: Request): URLSearchParams =>
  new URLSearchParams([...new URL(request.url).searchParams].map(([name, value]) => [name, cleanText(value)]));
