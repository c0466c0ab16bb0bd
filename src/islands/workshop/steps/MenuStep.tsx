import { DndContext, closestCenter } from '@dnd-kit/core';
import { SortableContext, verticalListSortingStrategy } from '@dnd-kit/sortable';
import { useEffect, useMemo, useState } from 'react';
import type { DoorState } from '@/core/access';
import { getEntry, type Inventory } from '@/core/inventory';
import { allDoors, type PlanDoor, type PlanRole } from '@/core/plan';
import { dragWords, useDragSensors } from '../../kit/drag';
import { Icon } from '../../kit/Icon';
import { MenuExtras } from '../menu/MenuExtras';
import { aspectOf, floorPlan } from '../floorPlan';
import { CARE, DOOR_STATES, roomAfter, warnOf } from '../model';
import type { StepProps } from './step';
import { DOOR_LOOK, stateOf, DoorName, Row } from '../menu/DoorRow';
import { useInventory } from '../../kit/inventory';

const tasksOf = (inventory: Inventory, role: PlanRole, section: string) =>
  role.tasks.filter((t) => inventory.tasks.get(t.task)?.section === section).length;

/** Which doors are shown, as floor plan and as an equal list. */
export function MenuStep({ facts, plan, prepared, change, setFocus, setWarning, readOnly }: StepProps) {
  const inventory = useInventory();
  const { role, now, person } = prepared;
  // On a narrow screen the rooms of the plan are too small for their names.
  const [view, setView] = useState(() => (matchMedia('(max-width: 767px)').matches ? 'list' : 'plan'));
  const groupOf = (section: string) => role.menu.groups.find((group) => group.doors.includes(section))?.name;
  const inMenu = allDoors(inventory, role.doors);
  // As the menu stands: first what is in no group, then the groups.
  const doors = [
    ...inMenu.filter(({ section }) => groupOf(section) === undefined),
    ...role.menu.groups.flatMap((group) =>
      group.doors.flatMap((id) => inMenu.find(({ section }) => section === id) ?? []),
    ),
  ];
  const aspect = aspectOf(doors.length);
  const [selected, setSelected] = useState(doors[0]?.section ?? '');
  const door = doors.find((d) => d.section === selected);
  const section = inventory.sections.find((s) => s.id === selected);
  const tasksIn = (id: string) => tasksOf(inventory, role, id);
  const boxes = useMemo(
    () =>
      floorPlan(
        allDoors(inventory, role.doors).map((d) => ({ id: d.section, tasks: tasksOf(inventory, role, d.section) })),
        aspect,
      ),
    [inventory, role, aspect],
  );
  const sensors = useDragSensors();
  const nameOf = (d: PlanDoor) => d.name ?? getEntry(inventory.controls, `door.${d.section}`).name;
  const closing =
    door && door.state !== 'closed'
      ? warnOf(
          nameOf(door),
          'Closing',
          now,
          roomAfter(inventory, facts, plan, person, [
            { do: 'set-door', role: role.id, section: selected, state: 'closed' },
          ]),
        )
      : null;

  useEffect(() => {
    setFocus(section ? (getEntry(inventory.screens, section.home).needs ?? null) : null);
    setWarning(closing);
    return () => setWarning(null);
  }, [inventory, closing, section, setFocus, setWarning]);

  const setState = (id: string, state: DoorState) => {
    setSelected(id);
    change({ do: 'set-door', role: role.id, section: id, state });
  };
  return (
    <div className="grid grid-cols-[minmax(0,1fr)] gap-3">
      <div className="-mt-1 flex flex-wrap items-center justify-between gap-x-4 gap-y-1">
        <p className="flex flex-wrap gap-4 text-sm text-ink-2">
          {DOOR_STATES.map((s) => (
            <span key={s.state} className="flex items-center gap-1.5">
              <span className={`inline-block h-4 w-6 border ${DOOR_LOOK[s.state]}`} /> <Icon name={s.icon} size={15} />{' '}
              {s.name} {doors.filter((d) => d.state === s.state).length}
            </span>
          ))}
        </p>
        <div role="group" aria-label="Shown as" className="flex gap-1">
          {(['plan', 'list'] as const).map((v) => (
            <button
              key={v}
              type="button"
              aria-pressed={view === v}
              className={`btn btn-small ${view === v ? '' : 'btn-quiet'}`}
              onClick={() => setView(v)}
            >
              <Icon name={v} size={16} /> {v === 'plan' ? 'Plan' : 'List'}
            </button>
          ))}
        </div>
      </div>
      {view === 'plan' && (
        <>
          <div className="relative max-md:overflow-x-auto">
            <ul
              aria-label="Floor plan"
              className="relative w-full rounded-s border-2 border-ink bg-sand max-md:min-w-[40rem]"
              style={{ aspectRatio: aspect }}
            >
              {boxes.map((box) => {
                const d = doors.find((e) => e.section === box.section);
                if (!d) return null;
                const { icon, name } = stateOf(d.state);
                const tasks = tasksIn(d.section);
                return (
                  <li
                    key={box.section}
                    className="absolute p-[2px]"
                    style={{
                      left: `${box.left}%`,
                      top: `${box.top}%`,
                      width: `${box.width}%`,
                      height: `${box.height}%`,
                    }}
                  >
                    <button
                      type="button"
                      aria-pressed={selected === d.section}
                      onClick={() => setSelected(d.section)}
                      className={`flex h-full w-full flex-col items-start overflow-hidden border p-2.5 text-left ${DOOR_LOOK[d.state]} ${selected === d.section ? 'relative z-10 outline-[3px] outline-offset-[-1px] outline-ring outline-solid' : ''}`}
                    >
                      <span className="flex w-full items-start justify-between gap-2">
                        <strong className="clip">{nameOf(d)}</strong>
                        <Icon name={icon} />
                      </span>
                      <span className="text-sm">
                        {tasks ? `${tasks} ${tasks === 1 ? 'task' : 'tasks'}` : d.state === 'closed' ? '' : 'no task'}
                      </span>
                      <span className="mt-auto text-sm font-semibold">{name}</span>
                    </button>
                  </li>
                );
              })}
            </ul>
          </div>
          {door && section && (
            <section
              className="card grid gap-3 p-3.5 md:grid-cols-[minmax(0,1fr)_9.5rem]"
              aria-label={`The door ${section.name}`}
            >
              <fieldset className="min-w-0">
                <legend className="mb-1 font-head font-semibold">
                  {section.name}
                  {section.care !== 'everyday' && (
                    <span className={`pill ml-2 ${CARE[section.care].pill} font-normal`}>
                      {CARE[section.care].name}
                    </span>
                  )}
                </legend>
                <p className="mb-2 text-sm text-ink-2">{section.purpose}</p>
                <div className="flex flex-wrap gap-1.5">
                  {DOOR_STATES.map((s) => (
                    <label
                      key={s.state}
                      title={s.says}
                      className={`flex min-h-[36px] items-center gap-2 rounded-s border px-2 py-1 font-semibold ${door.state === s.state ? 'border-pine bg-pine-soft' : 'border-line-2 bg-sheet hover:border-pine'}`}
                    >
                      <input
                        type="radio"
                        name="door-state"
                        className="h-4 w-4 accent-pine"
                        disabled={readOnly}
                        checked={door.state === s.state}
                        onChange={() => setState(door.section, s.state)}
                      />
                      <Icon name={s.icon} size={16} /> {s.name}
                    </label>
                  ))}
                </div>
                <p className="mt-1.5 text-sm text-ink-2">{stateOf(door.state).says}</p>
              </fieldset>
              <div>
                <span className="label">Own name</span>
                <DoorName
                  key={door.section}
                  door={door}
                  section={section}
                  readOnly={readOnly}
                  onName={(name) => change({ do: 'name-door', role: role.id, section: door.section, name })}
                />
                <p className="hint mt-1">As this role should read it.</p>
              </div>
            </section>
          )}
        </>
      )}
      {view === 'list' && (
        <DndContext
          sensors={sensors}
          collisionDetection={closestCenter}
          accessibility={dragWords(
            (id) =>
              doors.find((d) => d.section === id)?.name ?? inventory.sections.find((s) => s.id === id)?.name ?? id,
          )}
          onDragEnd={({ active, over }) => {
            if (over && active.id !== over.id)
              change({
                do: 'move-door',
                role: role.id,
                section: String(active.id),
                to: inMenu.findIndex((d) => d.section === over.id),
              });
          }}
        >
          <SortableContext
            items={doors.filter((d) => groupOf(d.section) === undefined).map((d) => d.section)}
            strategy={verticalListSortingStrategy}
          >
            <ul aria-label="Doors in menu order" className="card divide-y divide-line overflow-hidden p-0">
              {doors.map((d) => {
                const s = inventory.sections.find((e) => e.id === d.section);
                return (
                  s && (
                    <Row
                      key={d.section}
                      door={d}
                      section={s}
                      group={groupOf(d.section)}
                      tasks={tasksIn(d.section)}
                      readOnly={readOnly}
                      selected={selected === d.section}
                      onSelect={() => setSelected(d.section)}
                      onState={(state) => setState(d.section, state)}
                      onName={(name) => change({ do: 'name-door', role: role.id, section: d.section, name })}
                    />
                  )
                );
              })}
            </ul>
          </SortableContext>
        </DndContext>
      )}
      <MenuExtras
        role={role}
        pages={facts.pages}
        readOnly={readOnly}
        onChange={(menu) => change({ do: 'set-menu', role: role.id, menu })}
      />
    </div>
  );
}
