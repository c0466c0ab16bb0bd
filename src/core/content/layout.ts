import { FIELD_KINDS } from './kinds';
import type { FieldCommon, FieldKind } from './kinds/kind';
import type { PageContent } from './value';

type Shapes = {
  [K in keyof typeof FIELD_KINDS]: (typeof FIELD_KINDS)[K] extends FieldKind<infer Shape> ? Shape : never;
};
export type FieldKindId = keyof Shapes;
/**
 * A field a layout gives a page, of one of the kinds there are (`FIELD_KINDS`). Fields of the same id have the same kind
 * in every layout, so that text finds its place again when the layout is switched.
 */
export type Field = FieldCommon & Shapes[FieldKindId];
export type FieldOf<K extends FieldKindId> = Field & { kind: K };

/** What a field's kind says of it. */
export const kindOfField = (field: Field): FieldKind<Field> => FIELD_KINDS[field.kind] as unknown as FieldKind<Field>;

/** A page's form: which fields it has. Every layout has a short `title`. */
export interface Layout {
  id: string;
  name: string;
  /** What it is good for, in a sentence. */
  purpose: string;
  fields: readonly Field[];
}
export type Layouts = ReadonlyMap<string, Layout>;

/** The fields of other layouts, by id: what a page may keep of them. */
export const elsewhere = (layouts: Layouts, layout: Layout): Map<string, Field> =>
  new Map(
    [...layouts.values()]
      .flatMap((other) => other.fields)
      .filter((field) => !layout.fields.some((own) => own.id === field.id))
      .map((field) => [field.id, field]),
  );

/** Every field there is, by id. Fields of the same id have the same kind in every layout. */
export const allFields = (layouts: Layouts): Map<string, Field> =>
  new Map([...layouts.values()].flatMap((layout) => layout.fields).map((field) => [field.id, field]));

/** What a page keeps from layouts it no longer has, and that says something: fields with their values. */
export function keptElsewhere(layouts: Layouts, layout: Layout, content: PageContent): Field[] {
  return [...elsewhere(layouts, layout).values()].filter((field) => content[field.id] !== undefined);
}
