import type { PageContent } from '@/core/content';

/** How a draft stands. `version` is the one the server has; content is what is on the screen. */
export type DraftState =
  | { status: 'untouched' }
  | { status: 'typing' }
  | { status: 'saving' }
  | { status: 'kept'; at: string }
  | { status: 'trial' }
  | { status: 'offline'; detail: string }
  | { status: 'refused'; detail: string }
  | { status: 'signed-out' }
  | { status: 'conflict'; detail: string; theirs: PageContent; theirVersion: number };

/** What is kept in the browser until the server has it. */
export interface Backup {
  content: PageContent;
  version: number;
  at: string;
}

const keyOf = (person: string, page: string) => `safe-room-draft ${person} ${page}`;

export function findBackup(person: string, page: string): Backup | null {
  try {
    const value = JSON.parse(localStorage.getItem(keyOf(person, page)) ?? 'null') as Backup | null;
    return value && typeof value.version === 'number' && typeof value.content === 'object' ? value : null;
  } catch {
    return null;
  }
}

export function keepBackup(person: string, page: string, backup: Backup | null): void {
  try {
    if (backup) localStorage.setItem(keyOf(person, page), JSON.stringify(backup));
    else localStorage.removeItem(keyOf(person, page));
  } catch {
    // A browser without storage still has the server's draft.
  }
}
