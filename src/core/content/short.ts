import { z } from 'zod';
import { isHref, type Document } from './document';

const markSchema = z.discriminatedUnion('type', [
  z.strictObject({ type: z.literal('bold') }),
  z.strictObject({ type: z.literal('italic') }),
  z.strictObject({
    type: z.literal('link'),
    attrs: z.strictObject({ href: z.string().refine(isHref, 'is no address a link can have') }),
  }),
]);
const inlineSchema = z.discriminatedUnion('type', [
  z.strictObject({
    type: z.literal('text'),
    text: z.string().min(1).max(2000),
    marks: z.array(markSchema).max(3).optional(),
  }),
  z.strictObject({ type: z.literal('hardBreak') }),
]);
const paragraphSchema = z.strictObject({
  type: z.literal('paragraph'),
  content: z.array(inlineSchema).max(100).optional(),
});
const itemSchema = z.strictObject({ type: z.literal('listItem'), content: z.array(paragraphSchema).min(1).max(5) });

/** A few paragraphs and lists with bold, italic and links: what the administrator says to editors. */
export const shortTextSchema = z.strictObject({
  type: z.literal('doc'),
  content: z
    .array(
      z.discriminatedUnion('type', [
        paragraphSchema,
        z.strictObject({ type: z.literal('bulletList'), content: z.array(itemSchema).min(1).max(30) }),
        z.strictObject({
          type: z.literal('orderedList'),
          attrs: z.strictObject({ start: z.int() }).optional(),
          content: z.array(itemSchema).min(1).max(30),
        }),
      ]),
    )
    .max(30),
}) satisfies z.ZodType<Document>;

/** The tools a short text is written with. */
export const SHORT_TEXT_TOOLS = [
  'bold',
  'italic',
  'bullets',
  'numbers',
  'link.web',
  'link.mail',
  'link.phone',
] as const;
