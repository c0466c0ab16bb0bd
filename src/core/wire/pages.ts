import { z } from 'zod';
import type { Audience, Place } from '../access';
import type { ListedPage } from '../content';
import { filterSchema, savedFilterSchema } from '../lists';
import { linkTo } from './items';
import { idSchema, type Contract } from './parts';

/** Who may visit a page, as it comes over the wire and lies in its row. */
export const audienceSchema = z.union([
  z.strictObject({ kind: z.enum(['everyone', 'members']) }),
  z.strictObject({
    kind: z.literal('roles'),
    roles: z.array(z.string().max(80)).min(1, 'Choose at least one role.').max(50).readonly(),
  }),
]) satisfies z.ZodType<Audience>;

/** What is done with many pages at once. */
const bulk = z.discriminatedUnion('do', [
  z.strictObject({ do: z.literal('navigation'), shown: z.boolean() }),
  z.strictObject({ do: z.literal('audience'), audience: z.enum(['everyone', 'members', 'as-above']) }),
  z.strictObject({ do: z.literal('move'), parent: idSchema, redirect: z.boolean() }),
  z.strictObject({ do: z.literal('take-down') }),
  z.strictObject({ do: z.literal('delete') }),
]);
export type Bulk = z.infer<typeof bulk>;
const bulkRow = z.object({
  id: z.string(),
  title: z.string(),
  /** What becomes of it, or why nothing does. */
  words: z.string(),
  /** What comes with it, where it is only told. */
  notes: z.array(z.string()),
  refused: z.boolean(),
});
export type BulkRow = z.infer<typeof bulkRow>;
/** What takes back what was done with one page. */
const stepBack = z.discriminatedUnion('do', [
  z.strictObject({ do: z.literal('navigation'), page: idSchema, shown: z.boolean() }),
  z.strictObject({ do: z.literal('audience'), page: idSchema, audience: audienceSchema.nullable() }),
  z.strictObject({ do: z.literal('move'), page: idSchema, parent: idSchema, index: z.int().min(0).max(1_000_000) }),
  z.strictObject({ do: z.literal('put-back'), page: idSchema }),
  z.strictObject({ do: z.literal('bring-back'), page: idSchema }),
]);
export type StepBack = z.infer<typeof stepBack>;

const move = z.object({
  page: z.int(),
  parent: z.int(),
  /** Place among the pages there, from 0; the page itself not counted. */
  index: z.int(),
});
export type PageMove = z.infer<typeof move>;
const movePreview = z.object({
  /** Title of the page, and of the page it would lie below. */
  title: z.string(),
  to: z.string(),
  addresses: z.array(z.object({ title: z.string(), from: z.string(), to: z.string() })),
  /** Pages that go with it. */
  below: z.int(),
  /** Whether it would stand in another part of the navigation. */
  navigation: z.boolean(),
  /** Lists that fill themselves from what lies below a page: one loses it, one gains it. */
  lists: z.array(z.string()),
  /** Who may visit it, where that is not everybody or would change; a sentence. */
  visitors: z.string().nullable(),
  /** What whoever moves it may not do with it there any more. */
  lost: z.array(z.string()),
  /** Links that follow by themselves. */
  links: z.array(linkTo),
  faults: z.array(z.string()),
});
export type MovePreview = z.infer<typeof movePreview>;

const previewEntry = z.object({ id: z.int(), by: z.string(), madeAt: z.string(), expiresAt: z.string() });
/** A preview link that still works; the link itself is known to nobody but whoever has it. */
export type PreviewEntry = z.infer<typeof previewEntry>;
const madePreview = z.object({ links: z.array(previewEntry), url: z.string(), expiresAt: z.string() });

const target = z.object({
  id: z.string(),
  title: z.string(),
  /** Null where visitors see only what lies below it. */
  address: z.string().nullable(),
  below: z.boolean(),
});
/** A page a link can lead to. */
export type Target = z.infer<typeof target>;

const picked = z.object({ id: z.string(), parent: z.string().nullable(), title: z.string() });
/** A page to pick one from. */
export type PickedPage = z.infer<typeof picked>;

const parent = idSchema;
const layout = z.string().min(1).max(40);
const listed = z.array(z.custom<ListedPage>());

export const pageRoutes = {
  'POST /api/pages': {
    body: z.union([
      z.strictObject({ parent, layout, title: z.string().trim().min(1, 'Give the page a title.').max(120) }),
      z.strictObject({ parent, layout, outline: z.string().min(1, 'Paste or type a list first.').max(40_000) }),
    ]),
    answer: z.union([z.object({ id: z.string() }), z.object({ made: z.int(), first: z.string() })]),
  },
  'POST /api/pages/bulk': {
    body: z.strictObject({ ids: z.array(idSchema).min(1).max(1000), bulk, dry: z.boolean().default(false) }),
    answer: z.object({ rows: z.array(bulkRow), back: z.array(stepBack).optional() }),
  },
  'POST /api/pages/filters': {
    /** With no filter the name is forgotten. */
    body: z.strictObject({
      name: z.string().trim().min(1, 'Give it a name.').max(60),
      filter: filterSchema.nullable(),
    }),
    answer: z.object({ filters: z.array(savedFilterSchema) }),
  },
  'GET /api/pages/list': { answer: z.object({ pages: listed, total: z.int() }) },
  'GET /api/pages/pick': { answer: z.object({ pages: z.array(picked) }) },
  'POST /api/pages/take-back': {
    body: z.strictObject({ steps: z.array(stepBack).min(1).max(1000) }),
    answer: z.object({ pages: z.int() }),
  },
  'GET /api/pages/targets': {
    answer: z.object({ targets: z.array(target).optional(), tree: z.array(target).optional() }),
  },
  /** `total`: how many pages somebody may see in all; where the tree begins. */
  'GET /api/pages/tree': { answer: z.object({ pages: listed, total: z.int().optional() }) },
  'GET /api/pages/[id]/address': {
    answer: z.object({ address: z.string().nullable(), fault: z.string().nullable(), changes: z.int() }),
  },
  'PUT /api/pages/[id]/audience': { body: z.strictObject({ audience: audienceSchema.nullable() }) },
  'POST /api/pages/[id]/copy': {
    body: z.strictObject({ withBelow: z.boolean() }),
    answer: z.object({ id: z.string(), made: z.int() }),
  },
  'POST /api/pages/[id]/move': {
    body: z.strictObject({
      parent,
      index: z.int().min(0).max(100_000),
      redirect: z.boolean().default(false),
      dry: z.boolean().default(false),
    }),
    answer: z.union([movePreview, z.object({ back: move })]),
  },
  'POST /api/pages/[id]/preview-link': {
    body: z.union([z.strictObject({ days: z.int().min(1).max(30) }), z.strictObject({ end: idSchema })]),
    answer: z.union([madePreview, z.object({ links: z.array(previewEntry) })]),
  },
  'GET /api/workshop/pages': { answer: z.object({ pages: z.array(picked.extend({ place: z.custom<Place>() })) }) },
} as const satisfies Record<string, Contract>;
