import { kindOfField, type Field, type Layout } from '../content';
import { ofInventory, type Inventory, type ItemType } from '../inventory';

/** Something on an edit screen that can be prepared: a field, or a panel beside the fields. */
export interface Element {
  /** A field's id, or that of a panel's control. */
  id: string;
  name: string;
  hint?: string | undefined;
  kind: 'field' | 'panel';
  field?: Field;
  /** The panel it lies in. */
  panel?: string;
  /** The fields that lie in it. */
  holds: readonly string[];
  /** Its layout asks for it: it cannot be hidden. */
  needed: boolean;
  /**
   * Whether it can be locked: nothing could ever be finished that lacks what is needed, but for its title, which is asked
   * for when it is made.
   */
  lockable: boolean;
  /** Where it stands while nothing is arranged; a field of a panel stands with it. */
  column: 'main' | 'side';
}

/** All that can be prepared of the edit screen of a kind of item in one layout, in the order it stands by itself. */
export function elementsOf(inventory: Inventory, type: ItemType, layout: Layout): Element[] {
  const panels = [...inventory.controls.values()].filter(({ screen, panel }) => screen === type.screen && panel);
  const settings = new Map(type.settings.map((field) => [field.id, field]));
  const own = layout.fields.map((field): Element => {
    const panel = panels.find(({ fields }) => fields?.includes(field.id));
    return {
      id: panel ? panel.id : field.id,
      name: field.name,
      hint: field.hint,
      kind: 'field',
      field,
      holds: panel ? [field.id] : [],
      needed: field.required ?? false,
      lockable: !field.required || field.id === 'title',
      column: panel ? 'side' : 'main',
    };
  });
  const beside = panels
    .filter(({ fields }) => !fields || fields.some((id) => settings.has(id)))
    .flatMap((panel): Element[] => [
      {
        id: panel.id,
        name: panel.name,
        hint: panel.description,
        kind: 'panel',
        holds: panel.fields ?? [],
        needed: false,
        lockable: true,
        column: 'side',
      },
      ...(panel.fields ?? []).flatMap((id): Element[] => {
        const field = settings.get(id);
        return field
          ? [
              {
                id,
                name: field.name,
                hint: field.hint,
                kind: 'field',
                field,
                panel: panel.id,
                holds: [],
                needed: field.required ?? id === 'page.layout',
                lockable: !field.required && id !== 'page.layout',
                column: 'side',
              },
            ]
          : [];
      }),
    ]);
  const order = new Map(panels.map(({ id }, i) => [id, i]));
  const inSide = [...own.filter(({ column }) => column === 'side'), ...beside].sort(
    (a, b) => (order.get(a.panel ?? a.id) ?? 0) - (order.get(b.panel ?? b.id) ?? 0),
  );
  return [...own.filter(({ column }) => column === 'main'), ...inSide];
}

/** The screens of all kinds of items in each of their layouts. */
export const editScreens = (inventory: Inventory): { type: ItemType; layout: Layout; elements: Element[] }[] =>
  [...inventory.items.values()].flatMap((type) =>
    type.layouts.map((layout) => ({ type, layout, elements: elementsOf(inventory, type, layout) })),
  );

/** What a field can be chosen from; empty for one that is filled in otherwise. */
export const elementOptions = (
  inventory: Inventory,
  field: Field | undefined,
): readonly { id: string; name: string }[] =>
  field?.id === 'page.layout'
    ? [...inventory.layouts.values()]
    : ((field && kindOfField(field).options?.(field)) ?? []);

const panelsByField = ofInventory(({ items, controls }) => {
  const panels = new Map<string, string>();
  for (const { id, screen } of items.values())
    for (const control of controls.values())
      if (control.screen === screen && control.panel)
        for (const held of control.fields ?? []) panels.set(`${id} ${held}`, control.id);
  return panels;
});
/** The panel a field lies in, on whatever screen; undefined for one that stands by itself. */
export const panelOf = (inventory: Inventory, type: string, field: string): string | undefined =>
  panelsByField(inventory).get(`${type} ${field}`);
