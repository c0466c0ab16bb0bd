import { useSortable } from '@dnd-kit/sortable';
import type { DoorState } from '@/core/access';
import type { Section } from '@/core/inventory';
import type { PlanDoor } from '@/core/plan';
import { CommitInput } from '../../kit/CommitInput';
import { Icon, sectionIcon } from '../../kit/Icon';
import { DOOR_STATES, CARE } from '../model';

export const stateOf = (state: DoorState) => DOOR_STATES.find((s) => s.state === state) ?? DOOR_STATES[0];
/** Fill and pattern of a room; icon and word come with it, so that nothing is told by colour alone. */
export const DOOR_LOOK: Record<DoorState, string> = {
  open: 'bg-pine-soft border-ink',
  look: 'border-ink bg-[repeating-linear-gradient(45deg,var(--color-sky-soft)_0_8px,#f4f8fb_8px_16px)]',
  away: 'bg-sheet border-ink border-dashed',
  closed: 'bg-sand border-line-2 text-ink-2',
};
export function DoorName({
  door,
  section,
  onName,
  readOnly,
}: {
  door: PlanDoor;
  section: Section;
  onName: (name: string) => void;
  readOnly: boolean;
}) {
  return (
    <CommitInput
      className="field"
      aria-label={`Own name of the door ${section.name}`}
      maxLength={60}
      readOnly={readOnly}
      placeholder={section.name}
      value={door.name ?? ''}
      onCommit={onName}
    />
  );
}
export function Row({
  door,
  section,
  tasks,
  onState,
  onName,
  onSelect,
  selected,
  readOnly,
  group,
}: {
  /** The group it stands in, behind all doors that stand in none; its place is set there. */
  group: string | undefined;
  door: PlanDoor;
  section: Section;
  tasks: number;
  onState: (state: DoorState) => void;
  onName: (name: string) => void;
  onSelect: () => void;
  selected: boolean;
  readOnly: boolean;
}) {
  const { attributes, listeners, setNodeRef, setActivatorNodeRef, transform, transition } = useSortable({
    id: door.section,
  });
  return (
    <li
      ref={setNodeRef}
      style={{ transform: transform ? `translate3d(0, ${transform.y}px, 0)` : undefined, transition }}
      className={`grid grid-cols-[auto_minmax(0,1fr)] items-center gap-x-3 gap-y-2 px-3 py-2 max-md:[&>.field]:col-start-2 md:grid-cols-[auto_minmax(0,1fr)_minmax(0,12rem)_9rem] ${selected ? 'bg-pine-wash' : 'bg-sheet'}`}
      onFocus={onSelect}
    >
      <button
        type="button"
        ref={setActivatorNodeRef}
        {...attributes}
        {...listeners}
        disabled={readOnly || group !== undefined}
        className="flex h-8 w-8 cursor-grab disabled:cursor-default disabled:opacity-40 items-center justify-center rounded-s text-ink-2 hover:bg-pine-soft"
        aria-label={`Move the door ${door.name ?? section.name}`}
      >
        <Icon name="grip" />
      </button>
      <div className="min-w-0">
        <p className="flex flex-wrap items-center gap-2 font-semibold">
          <Icon name={sectionIcon(section.icon)} /> {section.name}
          {section.care !== 'everyday' && (
            <span className={`pill ${CARE[section.care].pill} font-normal`}>{CARE[section.care].name}</span>
          )}
        </p>
        <p className="clip text-sm text-ink-2">
          {tasks ? `${tasks} ${tasks === 1 ? 'task' : 'tasks'}` : 'no ticked task'}
          {group !== undefined && `, in the group “${group}”`}
        </p>
      </div>
      <DoorName door={door} section={section} onName={onName} readOnly={readOnly} />
      <select
        className="field"
        aria-label={`Door ${section.name}`}
        disabled={readOnly}
        value={door.state}
        onChange={(event) => onState(event.target.value as DoorState)}
      >
        {DOOR_STATES.map((s) => (
          <option key={s.state} value={s.state}>
            {s.name}
          </option>
        ))}
      </select>
    </li>
  );
}
