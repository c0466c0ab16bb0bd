import { jsonPath, type Fault } from './faults';

/**
 * Reads a text as JSON in which every name of an object stands there once, as RFC 8259 (section 4) wants it: which of
 * two would count differs from reader to reader. `__proto__` is no name of anything here.
 */
export function parseStrictly(text: string): { ok: true; value: unknown } | { ok: false; faults: Fault[] } {
  let value: unknown;
  try {
    value = JSON.parse(text);
  } catch (error) {
    return {
      ok: false,
      faults: [{ path: '$', message: `not JSON: ${error instanceof Error ? error.message : String(error)}` }],
    };
  }
  const faults = namesTwice(text);
  return faults.length > 0 ? { ok: false, faults } : { ok: true, value };
}

/** Objects and lists that are open: the names an object had, or at which entry a list is. */
type Open = { names: Set<string>; name: string } | { at: number };

/** Of a text that is JSON. */
function namesTwice(text: string): Fault[] {
  const faults: Fault[] = [];
  const open: Open[] = [];
  const path = () => open.map((one) => ('names' in one ? one.name : one.at));
  let isName = false;
  for (let at = 0; at < text.length; at++) {
    const letter = text[at];
    const here = open.at(-1);
    if (letter === '{') {
      open.push({ names: new Set(), name: '' });
      isName = true;
    } else if (letter === '[') {
      open.push({ at: 0 });
      isName = false;
    } else if (letter === '}' || letter === ']') {
      open.pop();
      isName = false;
    } else if (letter === ',') {
      if (here && 'at' in here) here.at++;
      else isName = true;
    } else if (letter === '"') {
      const from = at;
      for (at++; text[at] !== '"'; at++) if (text[at] === '\\') at++;
      if (!isName || !here || !('names' in here)) continue;
      here.name = JSON.parse(text.slice(from, at + 1)) as string;
      if (here.names.has(here.name)) faults.push({ path: jsonPath(path()), message: 'stands there twice' });
      else if (here.name === '__proto__')
        faults.push({ path: jsonPath(path()), message: 'nothing of this name belongs here' });
      here.names.add(here.name);
      isName = false;
    }
  }
  return faults;
}
