import type { ListedPage } from '@/core/content';
import type { PageMove } from '@/core/wire';
import { send, type Sent } from '../kit/send';
import { CopyDialog, MakeDialog } from './MakeDialog';
import type { DropPlace } from './model';
import { MoveDialog } from './MoveDialog';
import { RetireDialog, type Retiring } from './RetireDialog';

/** The request that takes something back, and what is said then. */
export interface Undo {
  send: (onProgress: (done: number) => void) => Promise<Sent<unknown>>;
  words: string;
  /** How many pages it is about. */ of?: number;
}
/** What is asked before a page is made, copied, moved or taken away. */
export type AskedOfPage =
  | { what: 'make'; below: ListedPage | null }
  | { what: 'copy'; page: ListedPage }
  | { what: 'move'; page: ListedPage; to: DropPlace | null }
  | { what: 'retire'; page: ListedPage; as: Retiring }
  | null;

/** The dialog for what somebody is about to do with one page. */
export function PageDialogs({
  asking,
  pages,
  layouts,
  onClose,
  onDone,
}: {
  asking: AskedOfPage;
  pages: ListedPage[];
  layouts: { id: string; name: string; purpose: string }[];
  onClose: () => void;
  /** What was done, how it is taken back, and which page it was about. */
  onDone: (words: string, undo: Undo | null, on?: string) => void;
}) {
  return (
    <>
      {asking?.what === 'make' && (
        <MakeDialog
          below={asking.below}
          pages={pages}
          layouts={layouts}
          onClose={onClose}
          onMade={(words) => onDone(words, null)}
        />
      )}
      {asking?.what === 'copy' && (
        <CopyDialog page={asking.page} onClose={onClose} onDone={(words) => onDone(words, null)} />
      )}
      {asking?.what === 'move' && (
        <MoveDialog
          page={asking.page}
          to={asking.to}
          pages={pages}
          onClose={onClose}
          onDone={(words, back: PageMove | null) =>
            onDone(
              words,
              back && {
                send: () =>
                  send('POST', `/api/pages/${back.page}/move`, {
                    parent: back.parent,
                    index: back.index,
                    redirect: false,
                  }),
                words: `${asking.page.title} is back where it was.`,
              },
              asking.page.id,
            )
          }
        />
      )}
      {asking?.what === 'retire' && (
        <RetireDialog
          page={asking.page}
          as={asking.as}
          onClose={onClose}
          onDone={(words) =>
            onDone(
              words,
              asking.as === 'delete'
                ? {
                    send: () => send('POST', `/api/items/${asking.page.id}/bring-back`),
                    words: `${asking.page.title} is back.`,
                  }
                : asking.as === 'take-down'
                  ? {
                      send: () => send('POST', `/api/items/${asking.page.id}/retire`, { do: 'put-back' }),
                      words: `${asking.page.title} is on the website again.`,
                    }
                  : null,
              asking.page.id,
            )
          }
        />
      )}
    </>
  );
}
