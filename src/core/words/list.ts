const format = new Intl.ListFormat('en-GB', { type: 'conjunction' });

/** Several things as a sentence has them: "a, b and c". */
export const sayList = (things: readonly string[]): string => format.format(things);

/** “1 change”, “3 changes”. */
export const sayCount = (n: number, one: string, many: string): string => `${n} ${n === 1 ? one : many}`;

/** The beginning of a text, told to be one: at most so many letters. */
export function sayBegin(text: string, letters = 40): string {
  const all = [...text];
  return all.length > letters ? `${all.slice(0, letters).join('').trimEnd()}…` : text;
}

/** A sentence with its full stop, unless it ends in quoted words that have one. */
export const sayWhole = (words: string): string => (/[.!?]”$/.test(words) ? words : `${words}.`);
