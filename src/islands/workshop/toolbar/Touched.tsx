import { useEffect, useState } from 'react';
import { closure } from '@/core/access';
import type { Plan } from '@/core/plan';
import { CONSTRUCT_NAMES, type ConstructPolicy } from '@/core/toolbar';
import type { Gets, HeldPlace, UsedTool } from '@/core/wire';
import { sayCount, sayDay } from '@/core/words';
import { toolName, type Inventory } from '@/core/inventory';
import { Icon } from '../../kit/Icon';
import { send } from '../../kit/send';
import type { WorkshopFacts } from '../model';
import { useInventory } from '../../kit/inventory';

type Held = Gets<'GET /api/workshop/held'>;
const heldBefore = new Map<string, Promise<Held | null>>();
/** The texts that hold something, asked for once a screen. */
function useHeld(made: readonly string[]): ReadonlyMap<string, Held> {
  const [found, setFound] = useState<ReadonlyMap<string, Held>>(new Map());
  const key = made.join(' ');
  useEffect(() => {
    let isOver = false;
    for (const one of key.split(' ').filter(Boolean)) {
      const asking =
        heldBefore.get(one) ??
        send('GET', `/api/workshop/held?made=${encodeURIComponent(one)}`).then((sent) => (sent.ok ? sent.value : null));
      heldBefore.set(one, asking);
      void asking.then((held) => {
        if (held === null) heldBefore.delete(one);
        else if (!isOver) setFound((all) => new Map(all).set(one, held));
      });
    }
    return () => {
      isOver = true;
    };
  }, [key]);
  return found;
}

type Used = Gets<'GET /api/workshop/used'>;
/** From how many changes on it can be told that something is never used (common practice, no source). */
const ENOUGH_CHANGES = 10;
let usedBefore: Promise<Used | null> | undefined;
/** What people made with their tools of late; null until it is there. */
function useUsed(): Used | null {
  const [found, setFound] = useState<Used | null>(null);
  useEffect(() => {
    usedBefore ??= send('GET', '/api/workshop/used').then((sent) => (sent.ok ? sent.value : null));
    void usedBefore.then((used) => {
      if (used === null) usedBefore = undefined;
      else setFound(used);
    });
  }, []);
  return found;
}

/** Whoever holds a role, or one that builds on it, by their ids. */
function holdersBelow(facts: WorkshopFacts, plan: Plan, role: string): Map<string, string> {
  const roles = new Map(plan.roles.map((one) => [one.id, one]));
  return new Map(
    facts.people
      .filter((person) =>
        person.assignments.some((a) => closure({ roles }, a.role).some((reached) => reached.role.id === role)),
      )
      .map(({ id, name }) => [id, name]),
  );
}

const makesOf = (inventory: Inventory, tool: string) => inventory.tools.get(tool)?.makes ?? [];
const POLICIES: [ConstructPolicy, string][] = [
  ['whole', 'Stay whole'],
  ['words', 'Words may change'],
  ['free', 'Free'],
];

/** A tool that is about to go from a place: what of it is there, who used it, and what shall become of it. */
function Going({
  tool,
  facts,
  places,
  all,
  used,
  days,
  people,
  policy,
  readOnly,
  onPolicy,
}: {
  tool: string;
  facts: WorkshopFacts;
  places: readonly HeldPlace[];
  /** Whether that is every place there is. */
  all: boolean;
  used: readonly UsedTool[];
  days: number;
  people: ReadonlyMap<string, string>;
  policy: ConstructPolicy;
  readOnly: boolean;
  onPolicy: (construct: string, policy: ConstructPolicy) => void;
}) {
  const inventory = useInventory();
  const FEW = 5;
  const times = places.reduce((sum, place) => sum + place.times, 0);
  const items = [...new Map(places.map((place) => [place.item, place])).values()];
  const last = items.reduce<HeldPlace | undefined>(
    (newest, one) => (!newest || one.at > newest.at ? one : newest),
    undefined,
  );
  const uses = used.reduce((sum, one) => sum + one.times, 0);
  const users = [...new Set(used.map(({ person }) => people.get(person) ?? 'somebody'))];
  const [construct = ''] = (makesOf(inventory, tool)[0] ?? '').split('.');
  const name = CONSTRUCT_NAMES[construct] ?? construct;
  return (
    <li className="note grid gap-1.5 text-sm">
      <p>
        <strong>Taking “{toolName(inventory, tool)}” away</strong>{' '}
        {times === 0
          ? 'touches nothing that is there.'
          : `touches ${all ? '' : 'at least '}${sayCount(times, 'place', 'places')} on ${sayCount(items.length, 'page', 'pages')}${last?.by ? `, last changed by ${last.by} on ${sayDay(new Date(last.at), facts.calendar, new Date(facts.nowMs))}` : ''}.`}
      </p>
      {uses > 0 && (
        <p className="font-semibold">
          Used {sayCount(uses, 'time', 'times')} in {days} days by {users.join(', ')}.
        </p>
      )}
      {items.length > 0 && (
        <details>
          <summary className="cursor-pointer text-pine underline">Where</summary>
          <ul className="mt-1 grid gap-0.5">
            {items.slice(0, FEW * 4).map((place) => (
              <li key={place.item} className="clip">
                <a
                  href={inventory.screens
                    .get(inventory.items.get(place.type)?.screen ?? '')
                    ?.path.replace('[id]', place.item)}
                >
                  {place.title}
                </a>
                {place.by && `, ${place.by}`}
              </li>
            ))}
            {items.length > FEW * 4 && <li>and {items.length - FEW * 4} more</li>}
          </ul>
        </details>
      )}
      {times > 0 && name && (
        <div role="group" aria-label={`What becomes of ${name}`} className="flex flex-wrap items-center gap-1.5">
          <span className="w-full">What shall become of {name}?</span>
          {POLICIES.map(([one, says]) => (
            <button
              key={one}
              type="button"
              aria-pressed={policy === one}
              disabled={readOnly}
              className={`btn btn-small ${policy === one ? 'border-pine bg-pine-soft' : ''}`}
              onClick={() => onPolicy(construct, one)}
            >
              {says}
            </button>
          ))}
        </div>
      )}
    </li>
  );
}

/**
 * What trimming touches at a place: of each tool that is about to go what texts hold, who used it and what becomes of
 * it; of those that stay which nobody used.
 */
export function Touched({
  facts,
  plan,
  role,
  going,
  staying,
  isHere,
  isLayoutHere,
  policyOf,
  readOnly,
  onPolicy,
  onTakeAway,
}: {
  facts: WorkshopFacts;
  plan: Plan;
  role: string;
  /** Tools in force there and not prepared, which make something. */
  going: readonly string[];
  staying: readonly string[];
  /** Whether a text lies at the place, and the role writes there. */
  isHere: (text: { type: string; layout: string; field: string; page?: string }) => boolean;
  /** Whether texts of a layout do. */
  isLayoutHere: (layout: string) => boolean;
  policyOf: (construct: string) => ConstructPolicy;
  readOnly: boolean;
  onPolicy: (construct: string, policy: ConstructPolicy) => void;
  onTakeAway: (tools: string[]) => void;
}) {
  const inventory = useInventory();
  const held = useHeld(going.flatMap((tool) => makesOf(inventory, tool).slice(0, 1)));
  const evidence = useUsed();
  const people = holdersBelow(facts, plan, role);
  const layoutOf = (place: HeldPlace) =>
    place.type === 'page'
      ? (facts.pages.find(({ id }) => id === place.page)?.place.layout ?? '')
      : (inventory.items.get(place.type)?.layouts[0]?.id ?? '');
  const usedHere = (evidence?.used ?? []).filter(
    (one) =>
      people.has(one.person) &&
      isHere({
        ...one,
        layout: one.type === 'page' ? one.layout : (inventory.items.get(one.type)?.layouts[0]?.id ?? ''),
      }),
  );
  const ofTool = (tool: string) => usedHere.filter(({ made }) => makesOf(inventory, tool)[0] === made);
  const written = (evidence?.changes ?? []).filter(
    (one) =>
      people.has(one.person) &&
      isLayoutHere(one.type === 'page' ? one.layout : (inventory.items.get(one.type)?.layouts[0]?.id ?? '')),
  );
  const changes = written.reduce((sum, one) => sum + one.changes, 0);
  const writers = new Set(written.map(({ person }) => person)).size;
  // Of a few changes nothing can be told.
  const idle =
    changes < ENOUGH_CHANGES
      ? []
      : staying.filter((tool) => makesOf(inventory, tool).length > 0 && ofTool(tool).length === 0);
  if (going.length === 0 && idle.length === 0) return null;
  return (
    <section id="touched" aria-label="What it touches" className="grid gap-2">
      {going.length > 0 && (
        <ul className="grid gap-2">
          {going.map((tool) => {
            const [made = ''] = makesOf(inventory, tool);
            const found = held.get(made);
            return found ? (
              <Going
                key={tool}
                tool={tool}
                facts={facts}
                all={found.all}
                places={found.places.filter((place) => isHere({ ...place, layout: layoutOf(place) }))}
                used={ofTool(tool)}
                days={evidence?.days ?? 0}
                people={people}
                policy={policyOf(made.split('.')[0] ?? '')}
                readOnly={readOnly}
                onPolicy={onPolicy}
              />
            ) : (
              <li key={tool} className="text-sm text-ink-2" role="status">
                Looking what “{toolName(inventory, tool)}” touches…
              </li>
            );
          })}
        </ul>
      )}
      {evidence && idle.length > 0 && (
        <div className="note note-pine grid gap-1.5 text-sm">
          <p>
            <strong>Never used here:</strong> {idle.map((tool) => toolName(inventory, tool)).join(', ')}. {changes}{' '}
            changes by {writers === 1 ? 'one person' : `${writers} people`} with this role in {evidence.days} days, and
            nothing was made with {idle.length === 1 ? 'it' : 'them'}.
          </p>
          {!readOnly && (
            <div role="group" aria-label="Take away what was never used" className="flex flex-wrap gap-1.5">
              {idle.map((tool) => (
                <button key={tool} type="button" className="btn btn-small" onClick={() => onTakeAway([tool])}>
                  <Icon name="close" size={14} />
                  <span className="sr-only">Take away </span>
                  {toolName(inventory, tool)}
                </button>
              ))}
            </div>
          )}
        </div>
      )}
    </section>
  );
}
