import { record } from '@/server/activity/activity';
import { mustHavePanel } from '@/server/items/allowed';
import { hrefFor } from '@/server/items/items';
import { callOff, comingInstant, scheduleFor, titleOf } from '@/server/items/publishing';
import { mustMayBelow } from '@/server/pages/move';
import { authorize } from '@/server/gate/authorize';
import { endpoint } from '@/server/gate/endpoint';
import { sayTime } from '@/core/words';
import { siteCalendar } from '@/server/calendar';
import { now } from '@/server/clock';

/** Plans when an item is taken down, or calls off what is planned. */
export const POST = endpoint('POST /api/items/[id]/schedule', {
  needs: 'item.view',
  on: 'item',
  run: async ({ tx, access, id, body, thing }) => {
    await authorize(
      tx,
      access,
      'callOff' in body && body.callOff === 'publish' ? 'item.publish' : 'item.retire',
      thing,
    );
    mustHavePanel(access, thing, 'schedule');
    if ('callOff' in body) return callOff(tx, access, id, body.callOff);
    const dueAt = comingInstant(access, body.at);
    await mustMayBelow(tx, access, 'page.retire', id);
    await scheduleFor(tx, access, id, { what: 'take-down', dueAt });
    await record(tx, access, 'planned to take down', await titleOf(tx, id), {
      href: await hrefFor(tx, access.inventory, id),
      detail: `For ${sayTime(dueAt, siteCalendar(access.site), now())}.`,
    });
    return { dueAt: dueAt.toISOString() };
  },
});
