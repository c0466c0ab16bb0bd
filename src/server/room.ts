import { room, type Room } from '@/core/room';
import { now } from './clock';
import { listPages, type PageFacts } from './tree/tree';
import type { Tx } from './db/client';
import type { Access } from './gate/access';
import { findProgress, type TourProgress } from './tours/progress';

export interface LoadedRoom {
  room: Room;
  pages: readonly PageFacts[];
  progress: Record<string, TourProgress>;
}

/** The room of whoever asks, with what it was made from. */
export async function loadRoom(tx: Tx, access: Access): Promise<LoadedRoom> {
  const [pages, progress] = await Promise.all([listPages(tx, access.site.id), findProgress(tx, access)]);
  return {
    room: room({
      inventory: access.inventory,
      plan: access.plan,
      person: access.who,
      places: pages.map((page) => page.place),
      nowMs: now().getTime(),
    }),
    pages,
    progress,
  };
}
