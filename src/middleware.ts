import { defineMiddleware } from 'astro:middleware';
import { findScreen, getEntry } from '@/core/inventory';
import { db } from '@/server/db/client';
import { settleDue } from './server/items/due';
import { findAccess } from '@/server/gate/access';
import { authorize, authorizeSomewhere } from '@/server/gate/authorize';
import { answerFault, problemOf } from '@/server/gate/endpoint';
import { inTurn } from '@/server/gate/lanes';
import { isOurHost, refuseForeign } from '@/server/gate/origin';
import { notFound, type Problem } from '@/server/gate/problems';
import { withSecurityHeaders } from '@/server/gate/headers';
import { readCookie } from '@/server/gate/sessions';
import { thingsOf } from '@/server/gate/things';
import { log } from '@/server/log';
import { remindOfDuties } from '@/server/duties/reminders';
import { findOwnFrame } from '@/server/own';
import { settleFindings } from '@/server/today/care';
import { tidyOld } from '@/server/work/tidy';

/** Routes open to everybody, as they are in `src/pages`; endpoints pass the gate themselves, in `endpoint()`. */
const OPEN =
  /^\/($|\[\.\.\.address\]$|404$|problem$|search$|sign-in$|set-up$|preview\/\[token\]$|media\/\[hash\]$|api\/)/;
const SCREENS = /^\/(room|workshop)(\/|$)/;
/** What no address of ours holds: a null character, a slash that is none, two slashes in a row. */
const ODD = /%00|%2f|%5c|\\|\/\//i;

/** Notes down that what runs beside an answer went wrong. */
const warn = (what: string) => (error: unknown) =>
  log.warn({ message: error instanceof Error ? error.message.split('\n')[0] : '' }, what);

/**
 * A page as a whole: where it fails while it is written that is told instead of half of it, and it goes out at once
 * instead of in a thousand pieces, which would take longer than writing it.
 */
async function whole(response: Response): Promise<Response> {
  if (!response.headers.get('content-type')?.startsWith('text/html')) return response;
  const { status, statusText, headers } = response;
  return new Response(await response.arrayBuffer(), { status, statusText, headers });
}

/**
 * The one gate for screens. What runs is decided by the route that was found, not by what the address looks like: a
 * route under /room and /workshop is a screen of the inventory or does not run, and runs only for somebody who may see
 * it; any other must be one of those open to everybody. Endpoints pass the same `authorize` in `endpoint()`.
 */
export const onRequest = defineMiddleware(async (context, next) => {
  const { pathname } = context.url;
  const route = context.routePattern;
  const guarded = SCREENS.test(route);
  const isPage = guarded || SCREENS.test(pathname);
  const tell = async (problem: Problem) => {
    context.locals.problem = problem;
    const page = await context.rewrite('/problem');
    const headers = new Headers(page.headers);
    if (problem.status === 503) headers.set('retry-after', '2');
    return new Response(page.body, { status: problem.status, headers });
  };
  // The page that tells of a problem comes through here again.
  if (context.locals.problem) return next();
  const answer = async (): Promise<Response> => {
    if (!isOurHost(context.request)) refuseForeign(context.request);
    if (ODD.test(pathname) || ODD.test(context.url.search.replaceAll(/%2f|%5c|\/\//gi, '')))
      throw notFound('This page');
    if (!guarded && !OPEN.test(route)) throw notFound('This page');
    if (!context.isPrerendered && !/^\/media\//.test(route)) {
      await settleDue(db);
      settleFindings(db).catch(warn('pages were not looked at'));
      remindOfDuties(db).catch(warn('nobody was reminded of what is due'));
      tidyOld(db).catch(warn('old things were not taken away'));
    }
    if (guarded) {
      const access = await findAccess(db, readCookie(context.request));
      if (!access)
        return withSecurityHeaders(context.redirect(`/sign-in?next=${encodeURIComponent(pathname)}`, 303), true);
      context.locals.access = access;
      context.locals.own = await findOwnFrame(db, access);
      const found = findScreen(access.inventory, pathname);
      if (!found) throw notFound('This screen');
      const kind = found.screen.on === undefined ? undefined : getEntry(thingsOf(access.inventory), found.screen.on);
      const thing = kind ? await kind.find(db, access, { id: found.id, body: {} }) : {};
      if (thing === null) throw notFound(kind?.words ?? 'This');
      context.locals.thing = thing;
      if (found.screen.needs)
        await (found.screen.on
          ? authorize(db, access, found.screen.needs, thing)
          : authorizeSomewhere(db, access, found.screen.needs));
    }
    return withSecurityHeaders(await whole(await next()), isPage);
  };
  try {
    return await inTurn(context.request, pathname, answer);
  } catch (error) {
    if (pathname.startsWith('/api/')) return answerFault(error, context.request);
    const problem = problemOf(error, context.request);
    return withSecurityHeaders(await tell(problem), isPage);
  }
});
