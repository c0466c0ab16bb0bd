import { z } from 'zod';
import type { FieldChange, Finding, PageContent } from '../content';
import { idSchema, versionSchema, type Contract } from './parts';

const note = z.object({
  id: z.int(),
  text: z.string(),
  /** What it asks to have changed: the field, and what in it. */
  wish: z.object({ field: z.string(), made: z.string() }).nullable(),
  /** The note it answers. */
  answers: z.int().nullable(),
  by: z.string(),
  at: z.string(),
  settled: z.boolean(),
});
/** Words about an item among those who keep it. */
export type Note = z.infer<typeof note>;

const present = z.object({ id: z.string(), name: z.string(), typing: z.boolean() });
/** Somebody who has an item open. */
export type Present = z.infer<typeof present>;

const remark = z.object({
  id: z.int(),
  /** The remark it answers. */
  answers: z.int().nullable(),
  field: z.string(),
  quote: z.string(),
  text: z.string(),
  by: z.string(),
  byId: z.string(),
  at: z.string(),
  settled: z.string().nullable(),
});
/** A remark of a second look. */
export type Remark = z.infer<typeof remark>;

/** What may be wrong with a content, as the site wants it judged. */
export type JudgedFinding = Omit<Finding, 'check'> & { rule: 'block' | 'advise' };

export const linkTo = z.object({ page: z.string(), href: z.string(), title: z.string(), address: z.string() });
const findings = z.array(z.custom<JudgedFinding>());
const changes = z.array(z.custom<FieldChange>());
const content = z.custom<PageContent>();
const comingOut = z.object({
  changes,
  content,
  version: z.int(),
  /** Something in it was typed and is not right yet. */
  isUnfinished: z.boolean(),
  findings,
  /** How a word about the change is asked for; null where the edit screen has no place for it. */
  note: z.object({ label: z.string().nullable(), hint: z.string().nullable(), required: z.boolean() }).nullable(),
});
/** What visitors would see anew if a draft went out, and what publishing it needs. */
export type ComingOut = z.infer<typeof comingOut>;

const look = z.object({
  title: z.string(),
  /** Pages below it. */
  below: z.int(),
  /** What else goes along, in words. */
  also: z.array(z.string()),
  drafts: z.int(),
  /** Links that would lead nowhere. */
  links: z.array(linkTo),
});
/** What taking an item away takes along. */
export type RetirePreview = z.infer<typeof look>;

const given = z.unknown();
/** What of it is not right yet. */
const faults = z.array(z.object({ field: z.string(), message: z.string() }));
const changeNote = z.string().trim().max(500);
const hour = z.string().max(20);

export const itemRoutes = {
  'POST /api/items/[id]/aside': { large: true, body: z.strictObject({ content: given }) },
  'POST /api/items/[id]/bring-back': { answer: z.object({ id: z.string(), pages: z.int(), renamed: z.boolean() }) },
  'POST /api/items/[id]/check': {
    large: true,
    body: z.strictObject({ content: given }),
    answer: z.object({ findings }),
  },
  'GET /api/items/[id]/changes': { answer: comingOut },
  /** Of which version of the draft; 0 where there is none. */
  'GET /api/items/[id]/content': { answer: z.object({ content, version: z.int(), faults }) },
  'PUT /api/items/[id]/draft': {
    large: true,
    /** `over`: what somebody else wrote meanwhile was seen; `from`: the version somebody went back to with it. */
    body: z.strictObject({
      content: given,
      version: versionSchema,
      over: z.boolean().optional(),
      from: idSchema.optional(),
    }),
    answer: z.object({ version: z.int(), updatedAt: z.string(), faults }),
  },
  'POST /api/items/[id]/drop': { body: z.strictObject({ version: versionSchema.min(1) }) },
  'POST /api/items/[id]/notes': {
    body: z.union([
      z.strictObject({
        text: z.string().trim().min(1, 'Write something first.').max(1000),
        wish: z.strictObject({ field: z.string().max(80), made: z.string().max(40) }).optional(),
        answers: idSchema.optional(),
      }),
      z.strictObject({ settle: idSchema, settled: z.boolean() }),
    ]),
    /** `to`: who may do what was asked for. */
    answer: z.object({ notes: z.array(note), to: z.array(z.string()).optional() }),
  },
  'POST /api/items/[id]/schedule': {
    body: z.union([z.strictObject({ at: hour }), z.strictObject({ callOff: z.enum(['publish', 'take-down']) })]),
  },
  'POST /api/items/[id]/presence': {
    body: z.strictObject({ typing: z.boolean(), leaving: z.boolean().default(false) }),
    /** `version`: of the draft there is now; 0 where there is none. */
    answer: z.object({ others: z.array(present), version: z.int() }),
  },
  'POST /api/items/[id]/publish': {
    large: true,
    body: z.strictObject({ content: given, version: versionSchema, note: changeNote, at: hour.optional() }),
  },
  'POST /api/items/[id]/retire': {
    body: z.strictObject({ do: z.enum(['look', 'take-down', 'put-back', 'delete']) }),
    /** What it would take along, of a look only; else of how many pages it was done. */
    answer: z.union([look, z.object({ pages: z.int().optional() })]),
  },
  'POST /api/items/[id]/send': {
    large: true,
    body: z.strictObject({
      content: given,
      version: versionSchema,
      note: changeNote,
      askedOf: idSchema.nullable().optional(),
    }),
    answer: z.object({ review: z.int() }),
  },
  'GET /api/items/[id]/versions/[revision]': { answer: z.object({ changes, content }) },
  'POST /api/review/[id]/decide': {
    body: z.strictObject({
      outcome: z.enum(['published', 'sent-back']),
      word: z.string().trim().max(1000),
      at: hour.optional(),
    }),
  },
  'GET /api/review/[id]/look': { answer: z.object({ changes, remarks: z.array(remark) }) },
  'POST /api/review/[id]/remarks': {
    body: z.union([
      z.strictObject({
        field: z.string().max(60),
        quote: z.string().trim().max(300),
        text: z.string().trim().min(1, 'Write something first.').max(1000),
        answers: idSchema.nullable(),
      }),
      z.strictObject({ settle: idSchema, settled: z.boolean() }),
    ]),
    answer: z.object({ remarks: z.array(remark) }),
  },
} as const satisfies Record<string, Contract>;

/** A wish that is open, as Today has it. */
export interface OpenWish {
  id: number;
  /** The item it is about. */
  item: number;
  title: string;
  href: string;
  text: string;
  by: string;
  at: string;
  /** For whoever may do it; else it is one's own, and was answered so. */
  answer: { text: string; by: string } | null;
  mine: boolean;
  /** Whether it can be answered and settled: the edit screen has its notes. */
  mayAnswer: boolean;
}
