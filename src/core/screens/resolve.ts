import { rankedRules, type Spot } from '../rules';
import {
  SHOWS,
  isArrangement,
  type Arrangement,
  type Aspect,
  type ElementSaid,
  type ScreenRule,
  type Show,
} from './schema';

/** The rules of all edit screens, and for each role itself with every role it extends. */
export interface ScreenWorld {
  rules: readonly ScreenRule[];
  extended: ReadonlyMap<string, ReadonlySet<string>>;
}

/** How an element is for somebody in one place, and by which rule each of it is so. */
export interface ElementState extends ElementSaid {
  because: Partial<Record<Aspect, string>>;
}

const extendedOf = (world: ScreenWorld, role: string) => world.extended.get(role) ?? new Set([role]);

/** What one role has of an element: each aspect by the strongest rule that says something of it. */
export function elementOf(world: ScreenWorld, role: string, spot: Spot): ElementState {
  const state: ElementState = { because: {} };
  for (const { id, then } of rankedRules(world.rules, role, extendedOf(world, role), spot)) {
    if (isArrangement(then)) continue;
    Object.assign(state, then);
    for (const aspect of Object.keys(then) as Aspect[]) state.because[aspect] = id;
  }
  return state;
}

/** How one role's screen is arranged there; undefined where nothing was said. */
export function arrangementOf(world: ScreenWorld, role: string, spot: Spot): Arrangement | undefined {
  return rankedRules(world.rules, role, extendedOf(world, role), { ...spot, field: '' })
    .map(({ then }) => then)
    .filter(isArrangement)
    .at(-1);
}

const rank = (show: Show | undefined) => (show === undefined ? 0 : SHOWS.indexOf(show));

/** Of what two places or states say the stricter: what is hidden in one of them is hidden. */
export function stricterElement(a: ElementState, b: ElementState): ElementState {
  const both = a.choices && b.choices ? a.choices.filter((one) => b.choices?.includes(one)) : (a.choices ?? b.choices);
  return {
    ...b,
    ...a,
    ...((a.show ?? b.show) && { show: rank(a.show) >= rank(b.show) ? a.show : b.show }),
    ...((a.required ?? b.required) && { required: true as const }),
    ...(both && { choices: both }),
    because: { ...b.because, ...a.because },
  };
}

/**
 * Of what several roles say the freest, in the order the roles were given: hidden, locked or asked for is only what all
 * of them say so; a choice is offered that one of them offers; name, hint and what it begins with are the first role's
 * that says something.
 */
export function freestElement(states: readonly ElementState[]): ElementState {
  const [first, ...rest] = states;
  if (!first || rest.length === 0) return first ?? { because: {} };
  const {
    show: _,
    lock: __,
    required: ___,
    choices: ____,
    ...words
  } = states
    .toReversed()
    .reduce((later, state) => ({ ...later, ...state, because: { ...later.because, ...state.because } }));
  const shows = states.map(({ show }) => show);
  const show = shows.includes('shown')
    ? 'shown'
    : shows.includes(undefined)
      ? undefined
      : shows.toSorted((a, b) => rank(a) - rank(b))[0];
  return {
    ...words,
    ...(show && { show }),
    ...(states.every(({ lock }) => lock !== undefined) && { lock: first.lock }),
    ...(states.every(({ required }) => required) && { required: true as const }),
    ...(states.every(({ choices }) => choices !== undefined) && {
      choices: [...new Set(states.flatMap(({ choices }) => choices ?? []))],
    }),
  };
}

/** Whether somebody can change it. */
export const isTheirs = ({ show, lock }: Pick<ElementState, 'show' | 'lock'>): boolean =>
  show !== 'hidden' && lock === undefined;

/** The order of blocks: as arranged, and behind it what was not named, where it belongs. Nothing is lost or doubled. */
export function arrange(
  arrangement: Arrangement | undefined,
  { main, side }: { main: readonly string[]; side: readonly string[] },
): { main: string[]; side: string[] } {
  const all = new Set([...main, ...side]);
  const named = arrangement ?? { main: [], side: [] };
  const inMain = [...new Set(named.main)].filter((id) => all.has(id));
  const inSide = [...new Set(named.side)].filter((id) => all.has(id) && !inMain.includes(id));
  const isNamed = (id: string) => inMain.includes(id) || inSide.includes(id);
  return {
    main: [...inMain, ...main.filter((id) => !isNamed(id))],
    side: [...inSide, ...side.filter((id) => !isNamed(id))],
  };
}
