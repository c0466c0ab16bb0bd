import { createContext, useContext, type ComponentType } from 'react';
import type { Inventory } from '@/core/inventory';
import { inventoryOf, type SiteFacts } from '@/office';

const InventoryContext = createContext<Inventory | null>(null);

/** What the back office of this site holds. Throws outside an island that was given its site. */
export function useInventory(): Inventory {
  const inventory = useContext(InventoryContext);
  if (!inventory) throw new Error('no inventory around this: its island is made with onSite');
  return inventory;
}

/** An island that knows the inventory of the site it is on, which is given as `siteFacts`. */
export const onSite =
  <Props extends object>(Island: ComponentType<Props>) =>
  ({ siteFacts, ...props }: Props & { siteFacts: SiteFacts }) => (
    <InventoryContext value={inventoryOf(siteFacts)}>
      <Island {...(props as unknown as Props)} />
    </InventoryContext>
  );
