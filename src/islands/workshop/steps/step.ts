import type { Decision } from '@/core/access';
import type { PermissionId } from '@/core/inventory';
import type { Plan } from '@/core/plan';
import type { Prepared, WorkshopFacts } from '../model';
import type { Change } from '../usePlan';

/** What every step of preparing a room works with. */
export interface StepProps {
  facts: WorkshopFacts;
  plan: Plan;
  prepared: Prepared;
  best: (permission: PermissionId) => Decision;
  change: Change;
  /** Which permission "why?" is answered for. */
  setFocus: (permission: PermissionId | null) => void;
  setWarning: (warning: string | null) => void;
  stepIn: () => void;
  /** Where beside it a step can show what it is about. */
  slot: HTMLElement | null;
  readOnly: boolean;
  /** Which change of the prepared plan is kept by now. */
  revision: number;
}
