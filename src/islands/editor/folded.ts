/** Every Latin letter with accents, by the plain one it is made of (Unicode canonical decomposition). */
const BY_PLAIN = (() => {
  const found = new Map<string, string>();
  for (const [from, to] of [
    [0xc0, 0x24f],
    [0x1e00, 0x1eff],
  ] as const)
    for (let code = from; code <= to; code++) {
      const letter = String.fromCodePoint(code);
      const plain = letter.normalize('NFD')[0] ?? letter;
      if (plain !== letter) found.set(plain, (found.get(plain) ?? '') + letter);
    }
  return found;
})();

/**
 * What is typed as a pattern (a regular expression's source) in which a plain letter stands for itself with any accent,
 * "cafe" for "Café" too; an accent that is typed has to be there.
 */
export const foldedPattern = (typed: string): string =>
  [...typed.normalize('NFC')]
    .map((letter) => {
      const marked = BY_PLAIN.get(letter);
      const itself = letter.replace(/[\\^$.*+?()[\]{}|/]/g, '\\$&');
      if (marked !== undefined) return `[${itself}${marked}]\\p{M}*`;
      const apart = letter.normalize('NFD');
      return apart === letter ? itself : `(?:${itself}|${apart})`;
    })
    .join('');
