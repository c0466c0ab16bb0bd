import { breathe } from '../work/breathe';
import { Problem } from './problems';

/** The longest bodies, in bytes: of what somebody who is not signed in sends, of most requests, of whole texts. */
const MOST = { little: 20_000, usual: 256_000, large: 2_000_000 } as const;
export type BodySize = keyof typeof MOST;
/** Deeper than any text that is written by hand: forty lists in one another. */
const MAX_DEPTH = 400;
const tooLarge = (most: number) =>
  new Problem('body-too-large', { most: most >= 1_000_000 ? `${most / 1_000_000} MB` : `${most / 1000} kB` });

/** The body as text, given up as soon as it is too long. */
async function readText(request: Request, most: number): Promise<string> {
  if (Number(request.headers.get('content-length') ?? 0) > most) throw tooLarge(most);
  const reader = request.body?.getReader();
  const decoder = new TextDecoder();
  let text = '';
  let bytes = 0;
  for (let part = await reader?.read(); part && !part.done; part = await reader?.read()) {
    const chunk = part.value as Uint8Array;
    bytes += chunk.byteLength;
    if (bytes > most) {
      await reader?.cancel().catch(() => undefined);
      throw tooLarge(most);
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

/** Refuses a text of JSON that is nested deeper than anything here is; counted without reading it. */
function mustBeShallow(text: string): void {
  const [QUOTE, BACKSLASH, OPEN, OPEN_LIST, CLOSE, CLOSE_LIST] = [34, 92, 123, 91, 125, 93];
  let [depth, isText] = [0, false];
  for (let at = 0; at < text.length; at++) {
    const code = text.charCodeAt(at);
    if (isText) {
      if (code === BACKSLASH) at++;
      else if (code === QUOTE) isText = false;
    } else if (code === QUOTE) isText = true;
    else if (code === OPEN || code === OPEN_LIST) {
      if (++depth > MAX_DEPTH) throw new Problem('nested-too-deep');
    } else if (code === CLOSE || code === CLOSE_LIST) depth--;
  }
}

/** What only a text with these in it can hold that no database can keep: written out, as JSON has to. */
const ESCAPED = /\\u(?:0000|d[89a-f])/i;
/** A value as JSON has it, in which every text is clean. */
function parsed(text: string): unknown {
  if (!ESCAPED.test(text)) return JSON.parse(text);
  return JSON.parse(text, (_, value: unknown) => {
    if (typeof value === 'string') return cleanText(value);
    if (typeof value !== 'object' || value === null || Array.isArray(value)) return value;
    const names = Object.keys(value);
    return names.some((name) => name !== cleanText(name))
      ? Object.fromEntries(Object.entries(value).map(([name, one]) => [cleanText(name), one as unknown]))
      : value;
  });
}

/** Reads a JSON body of at most some size; a fault says what is wrong with it. */
export const readBody = async (request: Request, size: BodySize): Promise<unknown> =>
  understood(await receiveBody(request, size));

/** A JSON body of at most some size as it came; null where none can come. */
export async function receiveBody(request: Request, size: BodySize): Promise<string | null> {
  if (request.method === 'GET' || request.method === 'HEAD') return null;
  if (!/^application\/json\b/.test(request.headers.get('content-type') ?? '')) throw new Problem('not-json-type');
  return readText(request, MOST[size]);
}

/** What a body says, which takes time where it is long: asked once it is known whose it is. */
export async function understood(text: string | null): Promise<unknown> {
  if (text === null) return {};
  await breathe();
  mustBeShallow(text);
  try {
    return text === '' ? {} : parsed(text);
  } catch {
    throw new Problem('not-json');
  }
}

/** What an address asks for after its question mark. */
export const readQuery = (request: Request): URLSearchParams =>
  new URLSearchParams([...new URL(request.url).searchParams].map(([name, value]) => [name, cleanText(value)]));
