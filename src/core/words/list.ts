const format = new Intl.ListFormat('en-GB', { type: 'conjunction' });

/** Several things as a sentence has them: "a, b and c". */
export const sayList = (things: readonly string[]): string => format.format(things);
