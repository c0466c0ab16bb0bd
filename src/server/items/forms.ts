import {
  allFields,
  kindOfField,
  referencesOf,
  textOf,
  type Document,
  type Field,
  type Layout,
  type Layouts,
  type PageContent,
} from '@/core/content';
import { getEntry, type ItemType, type Inventory, ofInventory } from '@/core/inventory';
import type { items } from '../db/schema';

export type ItemRow = typeof items.$inferSelect;

/** The fields items of a type can have, worked out once. */
export interface Form {
  type: ItemType;
  layouts: Layouts;
  /** Those of the layouts. */
  fields: readonly Field[];
  /** Those of them that hold text with form. */
  rich: readonly Field[];
  /** All, with the settings. */
  byId: ReadonlyMap<string, Field>;
}

const formsOf = ofInventory(
  (inventory) =>
    new Map(
      [...inventory.items.values()].map((type): [string, Form] => {
        const layouts: Layouts = new Map(type.layouts.map((layout) => [layout.id, layout]));
        const fields = [...allFields(layouts).values()];
        const byId = new Map([...fields, ...type.settings].map((field) => [field.id, field]));
        return [type.id, { type, layouts, fields, rich: fields.filter(isRich), byId }];
      }),
    ),
);

/** What items of the type of this one are made of. */
export const formOf = (inventory: Inventory, item: Pick<ItemRow, 'type'>): Form =>
  getEntry(formsOf(inventory), item.type);

function isRich(field: Field): boolean {
  return kindOfField(field).texts !== undefined;
}

/** The layout that content names, or its item's. */
export function layoutOf(inventory: Inventory, content: PageContent, item: Pick<ItemRow, 'layout' | 'type'>): Layout {
  const { layouts } = formOf(inventory, item);
  return layouts.get(textOf(content, 'page.layout')) ?? getEntry(layouts, item.layout);
}

/** The blocks of a field, whichever texts they lie in. */
export const blocksOf = (field: Field, content: PageContent): Document => ({
  type: 'doc',
  content: (kindOfField(field).texts?.(field, content) ?? []).flatMap(({ document }) => document.content),
});

/** Every picture an item's content shows or keeps, with the field it stands in. */
export const picturesOf = (form: Form, content: PageContent): { field: Field; id: string }[] =>
  form.fields.flatMap((field) =>
    referencesOf([field], content).flatMap(({ kind, target }) => (kind === 'picture' ? [{ field, id: target }] : [])),
  );
