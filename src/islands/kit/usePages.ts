import { useEffect, useState } from 'react';
import type { PickedPage } from './PagePicker';
import { send } from './send';

/** Which pages a field picks one from, as `/api/pages/pick` names them. */
export type PageSource = 'seen' | 'notices' | 'plan';

const asked = new Map<PageSource, Promise<readonly PickedPage[] | null>>();

/** Pages to pick from: asked for once a screen, by the first field that needs them, so that no screen carries all of them. Null until they are there. */
export function usePages(source: PageSource | readonly PickedPage[]): {
  pages: readonly PickedPage[] | null;
  failed: boolean;
} {
  const [fetched, setFetched] = useState<{ pages: readonly PickedPage[] | null; failed: boolean }>({
    pages: null,
    failed: false,
  });
  useEffect(() => {
    if (typeof source !== 'string') return undefined;
    let current = true;
    const asking =
      asked.get(source) ??
      send<{ pages: PickedPage[] }>('GET', `/api/pages/pick?for=${source}`).then((sent) =>
        sent.ok ? sent.value.pages : null,
      );
    asked.set(source, asking);
    void asking.then((pages) => {
      // Another field, or this one opened again, may have more luck.
      if (pages === null) asked.delete(source);
      if (current) setFetched({ pages, failed: pages === null });
    });
    return () => {
      current = false;
    };
  }, [source]);
  return typeof source === 'string' ? fetched : { pages: source, failed: false };
}
