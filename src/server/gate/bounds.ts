import { VISIT, type Beyond, type PolicyPerson } from '@/core/access';
import { beyondMe, KEYHOLDER } from '@/core/plan';
import type { Tx } from '../db/client';
import { isKeyholder, namesFor, type Access } from './access';
import { loadGround } from './ground';
import { Problem } from './problems';

/** What goes too far, as a sentence has it: "publish pages without a second look, under Harbours". */
export async function beyondInWords(
  tx: Tx,
  access: Pick<Access, 'site' | 'plan' | 'inventory'>,
  { permission, place, field }: Beyond,
): Promise<string> {
  const names = await namesFor(tx, access);
  const what = permission === VISIT ? 'visit pages of the website that are for some only' : names.doing(permission);
  const doing = field === undefined ? what : `${what} (“${names.field?.(field) ?? field}”)`;
  return place && place.path.length > 1 ? `${doing}, under ${names.page(place.path.at(-1) ?? '')}` : doing;
}

/** What bounds somebody who looks after people: by no way may anybody come to do more than they. */
export interface Bounds {
  /** Refuses changing oneself, and a keyholder, to all but keyholders. */
  mustTouch: (target: PolicyPerson) => void;
  /** Refuses what would give somebody what neither they had before nor whoever gives it has. */
  mustGive: (before: PolicyPerson | null, after: PolicyPerson) => Promise<void>;
  /** Refuses what lets one in as somebody who may do more. */
  mustReach: (target: PolicyPerson) => Promise<void>;
}

export async function loadBounds(tx: Tx, access: Access): Promise<Bounds> {
  const { plan, who } = access;
  const ground = await loadGround(tx, access.inventory, access.site.id);
  const inWords = (beyond: Beyond) => beyondInWords(tx, access, beyond);
  return {
    mustTouch: (target) => {
      if (isKeyholder(who)) return;
      if (target.id === who.id) throw new Problem('own-access');
      if (target.assignments.some((a) => a.role === KEYHOLDER)) throw new Problem('keyholder-only');
    },
    mustGive: async (before, after) => {
      const beyond = beyondMe(ground, plan, who, after, before ?? undefined);
      if (beyond) throw new Problem('gives-more', { what: await inWords(beyond) });
    },
    mustReach: async (target) => {
      const beyond = beyondMe(ground, plan, who, target);
      if (beyond) throw new Problem('may-do-more', { person: target.name, what: await inWords(beyond) });
    },
  };
}
