import { z } from 'zod';
import { plainText, shortTextSchema } from '../../content';
import { canonical } from '../../json';
import type { Inventory } from '../../inventory';
import { sayBegin, sayWhole } from '../../words';
import {
  operationsOn,
  readableMany,
  readableObject,
  readableText,
  role,
  type PlanPart,
  type PartFault,
  type WholePart,
} from './part';

/** Where the administrator says something: on Today, behind a door, on the edit screen of a kind of item. */
const at = z.string().regex(/^(today|(door|edit):[a-z][\w-]*)$/, 'is no place for words');
const saidSchema = z.strictObject({ at, role: z.string().min(1).max(80).optional(), text: shortTextSchema });
const schema = z.array(saidSchema).max(400);
type Words = z.infer<typeof schema>;
const readable = readableMany(readableObject({ at: readableText, role: readableText.optional() }));

/** A place for words by its name. */
export function wordsPlace(
  inventory: Inventory,
  place: string,
  doorName: (section: string) => string = (id) => inventory.sections.find((one) => one.id === id)?.name ?? id,
): string {
  const [kind, id = ''] = place.split(':');
  if (kind === 'today') return 'Today';
  return kind === 'door' ? `the door “${doorName(id)}”` : `the edit screen of a ${inventory.items.get(id)?.one ?? id}`;
}
/** Every place there is. */
export const wordsPlaces = (inventory: Inventory): string[] => [
  'today',
  ...inventory.doors.map(({ id }) => `door:${id}`),
  ...[...inventory.items.keys()].map((id) => `edit:${id}`),
];

const keyOf = ({ at: place, role: of }: Pick<Words[number], 'at' | 'role'>) => `${place} ${of ?? ''}`;
const on = operationsOn<Words>();
const put = (value: Words, key: Pick<Words[number], 'at' | 'role'>, text: Words[number]['text'] | null) => {
  const old = value.find((one) => keyOf(one) === keyOf(key));
  if (!text) return old ? value.filter((one) => one !== old) : 'already-so';
  if (!old) return [...value, { ...key, text }];
  return value.map((one) => (one === old ? { ...one, text } : one));
};
const say = (inventory: Inventory, op: { at: string; text: unknown }) =>
  `${op.text ? 'Words' : 'No words'} on ${wordsPlace(inventory, op.at)}`;

/** What the administrator says to editors, where they need it: to everybody, or to those who hold a role. */
export const words = {
  schema,
  empty: [] as Words,
  operations: [
    on(
      'set-words',
      { role, at, text: shortTextSchema.nullable() },
      { apply: (_, value, op) => put(value, { at: op.at, role: op.role }, op.text), say },
    ),
    on(
      'set-words-for-all',
      { at, text: shortTextSchema.nullable() },
      { apply: (_, value, op) => put(value, { at: op.at }, op.text), say },
    ),
  ],
  canonical: (_, value) => [...value].sort((a, b) => (keyOf(a) < keyOf(b) ? -1 : 1)),
  differences({ inventory, of }, before, after) {
    const mine = (value: Words) => value.filter(({ role: one }) => (one ?? null) === of);
    const places = new Set([...mine(before), ...mine(after)].map((one) => one.at));
    return [...places].flatMap((place) => {
      const [old, now] = [before, after].map((value) => mine(value).find((one) => one.at === place)?.text);
      if (canonical(old ?? null) === canonical(now ?? null)) return [];
      const name = wordsPlace(inventory, place);
      if (!now) return [`No words on ${name} any more.`];
      const said = sayBegin(plainText(now).replace(/\s+/gu, ' ').trim(), 120);
      return [sayWhole(`${old ? 'Other' : 'New'} words on ${name}: “${said}”`)];
    });
  },
  taking: (value, from, ids) => [
    ...value.filter((one) => !ids.includes(one.role ?? null)),
    ...from.filter((one) => ids.includes(one.role ?? null)),
  ],
  entries: {
    of: (value) => new Map<string, unknown>(value.map((one) => [keyOf(one), one])),
    from: (entries) => [...entries.values()] as Words,
  },
  copyRole: (value, from, to) => [
    ...value,
    ...value.filter((one) => one.role === from).map((one) => ({ ...one, role: to })),
  ],
  cross: (value, roles) =>
    value.flatMap(({ role: of }, i): PartFault[] =>
      of === undefined || roles.has(of) ? [] : [{ path: [i, 'role'], message: `no role "${of}"` }],
    ),
  readable,
  twice: (value) => value.map((one) => one.at && keyOf(one)),
  unknown: (inventory, value) =>
    value.flatMap(({ at: place }, i): PartFault[] =>
      place === '' || wordsPlaces(inventory).includes(place)
        ? []
        : [{ path: [i, 'at'], message: `the back office has no place "${place}" for words` }],
    ),
} satisfies PlanPart<Words, z.infer<typeof readable>> & WholePart<Words>;
