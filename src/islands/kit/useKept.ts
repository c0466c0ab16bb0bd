import { useCallback, useEffect, useState } from 'react';

const nameOf = (key: string) => `safe-room-words ${document.documentElement.dataset['me'] ?? ''} ${key}`;

/**
 * Words that are typed into a form and sent later: kept in this browser, for whoever is signed in, until they are sent
 * or thrown away knowingly. Gives them, a setter, and what forgets them. `begin` is what stands there where nothing was
 * kept.
 */
export function useKept(
  key: string,
  begin = '',
): readonly [words: string, set: (words: string) => void, forget: () => void] {
  const [words, setWords] = useState(begin);
  // Read after the first drawing, which the server has made without them.
  useEffect(() => {
    try {
      const kept = localStorage.getItem(nameOf(key));
      // Under another key other words: those typed for one thing are not said of the next.
      setWords(kept ?? begin);
    } catch {
      // A browser without storage keeps nothing.
    }
  }, [key, begin]);
  const set = useCallback(
    (next: string) => {
      setWords(next);
      try {
        if (next === begin) localStorage.removeItem(nameOf(key));
        else localStorage.setItem(nameOf(key), next);
      } catch {
        // As above.
      }
    },
    [key, begin],
  );
  return [words, set, useCallback(() => set(begin), [set, begin])];
}
