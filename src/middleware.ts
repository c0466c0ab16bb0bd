import { defineMiddleware } from 'astro:middleware';
import { findScreen } from '@/core/inventory';
import { inventory } from '@/office';
import { db, isDatabaseAway } from '@/server/db/client';
import { settleDue } from '@/server/content/publishing';
import { findAccess } from '@/server/gate/access';
import { authorize, authorizeSomewhere } from '@/server/gate/authorize';
import { answerFault } from '@/server/gate/endpoint';
import { notFound, Problem } from '@/server/gate/problems';
import { withSecurityHeaders } from '@/server/gate/headers';
import { readCookie } from '@/server/gate/sessions';
import { THINGS } from '@/server/gate/things';

/**
 * The one gate for screens: every address under /room and /workshop is a screen of the inventory or does not
 * exist, and is shown only to somebody who may see it. Endpoints pass the same `authorize` in `endpoint()`.
 */
export const onRequest = defineMiddleware(async (context, next) => {
  const { pathname } = context.url;
  const guarded = /^\/(room|workshop)(\/|$)/.test(pathname);
  const tell = async (problem: Problem) => {
    context.locals.problem = problem;
    const page = await context.rewrite('/problem');
    return new Response(page.body, { status: problem.status, headers: page.headers });
  };
  try {
    if (!context.isPrerendered && !/^\/(_astro|media)\//.test(pathname)) await settleDue(db);
    if (guarded && !context.isPrerendered) {
      const access = await findAccess(db, readCookie(context.request));
      if (!access) return withSecurityHeaders(context.redirect(`/sign-in?next=${encodeURIComponent(pathname)}`, 303), true);
      context.locals.access = access;
      const found = findScreen(inventory, pathname);
      if (!found) throw notFound('This screen');
      const thing = found.screen.on ? await THINGS[found.screen.on](db, access, { id: found.id, body: {} }) : {};
      if (thing === null) throw notFound(found.screen.on === 'page' ? 'This page' : 'This draft');
      context.locals.thing = thing;
      if (found.screen.needs) await (found.screen.on ? authorize(db, access, found.screen.needs, thing) : authorizeSomewhere(db, access, found.screen.needs));
    }
    return withSecurityHeaders(await next(), guarded);
  } catch (error) {
    if (pathname.startsWith('/api/')) return answerFault(error, context.request);
    const told = error instanceof Problem ? error : isDatabaseAway(error) ? new Problem('database-away', 'The database is starting again. Nothing was lost; try again in a moment.') : undefined;
    const problem = told ?? new Problem('broken', ((await answerFault(error, context.request).json()) as { detail: string }).detail);
    return withSecurityHeaders(await tell(problem), guarded);
  }
});
