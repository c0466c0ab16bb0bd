import { createHash, randomUUID } from 'node:crypto';
import type { APIRoute } from 'astro';
import { and, eq } from 'drizzle-orm';
import { z } from 'zod';
import { inPlainWords } from '@/core/json';
import type { PermissionId } from '@/core/inventory';
import { type AnswerOf, type BodyOf, type Contract, type Route, ROUTES } from '@/core/wire';
import { db, isDatabaseAway, isPoolFull, type Tx } from '../db/client';
import { receipts } from '../db/schema';
import { log } from '../log';
import { findAccess, type Access } from './access';
import { authorize, type Thing } from './authorize';
import { cleanText, readQuery, receiveBody, understood } from './body';
import { refuseForeign } from './origin';
import { notFound, Problem } from './problems';
import { readCookie } from './sessions';
import { getEntry } from '@/core/inventory';
import { thingsOf } from './things';

export interface Call<B> {
  tx: Tx;
  access: Access;
  body: B;
  id: number;
  thing: Thing;
  request: Request;
  /** What the address asks for after its question mark. */
  query: URLSearchParams;
  params: Record<string, string | undefined>;
  /** Tells how far long work has come, where it is asked for as lines (`accept: application/x-ndjson`). */
  progress: (done: number) => void;
}

export interface Declared {
  /** The permission it asks for; `signed-in` where being signed in is enough. */
  needs: PermissionId | 'signed-in';
  /** The kind of thing it is about, as `thingsOf` has it. */
  on?: string;
  /** Works for real also while a room is tried: only what ends the trial. */
  evenInTrial?: true;
}

/** Faults of a body that may have one of several forms: those of the form it comes nearest to. */
const plainly = (issues: readonly z.core.$ZodIssue[]): z.core.$ZodIssue[] =>
  issues.flatMap((issue) => {
    const [nearest] = issue.code === 'invalid_union' ? issue.errors.toSorted((a, b) => a.length - b.length) : [];
    return nearest ? plainly(nearest).map((one) => ({ ...one, path: [...issue.path, ...one.path] })) : [issue];
  });

export function parseBody<S extends z.ZodType>(schema: S, value: unknown): z.infer<S> {
  const parsed = schema.safeParse(value, { error: inPlainWords });
  if (parsed.success) return parsed.data;
  const faults = plainly(parsed.error.issues).map((issue) => ({ field: issue.path.join('.'), message: issue.message }));
  const [first] = faults;
  // A whole sentence says itself what it is about.
  const isWhole = /^\p{Lu}.*[.!?]$/u.test(first?.message ?? '');
  const told = first
    ? `${first.field && !isWhole ? `${first.field}: ` : ''}${first.message}`
    : 'Something does not fit.';
  throw new Problem('body-faults', { faults: told }, { faults });
}

/** Whatever was thrown as a refusal; what was not expected is logged under a request id and not told. */
export function problemOf(error: unknown, request: Request): Problem {
  if (error instanceof Problem) return error as Problem;
  if (isPoolFull(error)) return new Problem('busy');
  if (isDatabaseAway(error)) return new Problem('database-away');
  const requestId = randomUUID();
  const message =
    error instanceof Error ? error.message.split('\n')[0]?.replace(/^Failed query:.*/, 'a query failed') : 'unknown';
  log.error(
    {
      requestId,
      path: new URL(request.url).pathname,
      message,
      stack:
        error instanceof Error
          ? error.stack
              ?.split('\n')
              .filter((line) => line.trim().startsWith('at '))
              .slice(0, 8)
          : undefined,
    },
    'something went wrong',
  );
  return new Problem('broken', { number: requestId.slice(0, 8) }, { requestId });
}

/** The answer to a request that was refused or failed. */
export function answerFault(error: unknown, request: Request): Response {
  const problem = problemOf(error, request);
  return problem.toResponse(problem.status === 503 ? { 'retry-after': '2' } : {});
}

export const json = (value: unknown, status = 200, headers: Record<string, string> = {}): Response =>
  new Response(JSON.stringify(value ?? {}), {
    status,
    headers: { 'content-type': 'application/json; charset=utf-8', 'cache-control': 'no-store', ...headers },
  });

const notSignedIn = () => new Problem('not-signed-in');

class Trial extends Error {
  constructor(readonly value: unknown) {
    super('a trial is rolled back');
  }
}

/** The answer already given to this very request under this key, or what `run` gives now: sent twice, done once. */
async function once(
  tx: Tx,
  access: Access,
  request: Request,
  body: unknown,
  run: () => Promise<unknown>,
): Promise<unknown> {
  const key = cleanText(request.headers.get('idempotency-key') ?? '');
  if (!key || key.length > 80) return run();
  const asked = createHash('sha256')
    .update(`${request.method} ${new URL(request.url).pathname} ${JSON.stringify(body)}`)
    .digest('hex');
  const mine = { personId: access.signedInId, key };
  const [fresh] = await tx
    .insert(receipts)
    .values({ ...mine, siteId: access.site.id, request: asked })
    .onConflictDoNothing()
    .returning({ key: receipts.key });
  const here = and(eq(receipts.personId, mine.personId), eq(receipts.key, key));
  if (!fresh) {
    const [old] = await tx.select().from(receipts).where(here);
    if (old && old.request !== asked) throw new Problem('key-used');
    return old?.response;
  }
  const value = (await run()) ?? {};
  await tx.update(receipts).set({ response: value }).where(here);
  return value;
}

/** Long work answered line by line: `{"done":3}` as it goes on, at last `{"value":…}` or `{"problem":…}`. */
function asLines(work: (progress: (done: number) => void) => Promise<unknown>, request: Request): Response {
  const encoder = new TextEncoder();
  const body = new ReadableStream({
    async start(stream) {
      const line = (value: object) => stream.enqueue(encoder.encode(`${JSON.stringify(value)}\n`));
      try {
        line({ value: (await work((done) => line({ done }))) ?? {} });
      } catch (error) {
        line({ problem: problemOf(error, request) });
      }
      stream.close();
    },
  });
  return new Response(body, { headers: { 'content-type': 'application/x-ndjson', 'cache-control': 'no-store' } });
}

/**
 * Makes the endpoint of a route: from where does it come, who asks, may they, is the input whole, then one service call
 * in one transaction, then the answer, as the contract of the route has them. While a room is tried the transaction is rolled back after the answer is made.
 */
export function endpoint<R extends Route>(
  route: R,
  declared: Declared & { run: (call: Call<BodyOf<R>>) => Promise<AnswerOf<R> | Response> },
): APIRoute & { declared: Declared & { route: Route } } {
  const contract: Contract = ROUTES[route];
  // Nothing goes out that the contract does not name.
  const run = async (call: Call<BodyOf<R>>): Promise<unknown> => {
    const value = await declared.run(call);
    return value instanceof Response ? value : (contract.answer?.parse(value) ?? {});
  };
  const work = async (
    request: Request,
    params: Record<string, string | undefined>,
    progress: (done: number) => void,
  ): Promise<unknown> => {
    refuseForeign(request);
    // Who is not signed in is told so before anything they send is read.
    if (readCookie(request) === undefined) throw notSignedIn();
    if (params['id'] !== undefined && !/^\d{1,9}$/.test(params['id'])) throw notFound('That');
    const received = await receiveBody(request, contract.large ? 'large' : 'usual');
    return db
      .transaction(async (tx) => {
        const access = await findAccess(tx, readCookie(request));
        if (!access) throw notSignedIn();
        const raw = await understood(received);
        const kind = declared.on === undefined ? undefined : getEntry(thingsOf(access.inventory), declared.on);
        const thing = kind ? await kind.find(tx, access, { id: params['id'], body: raw }) : {};
        if (thing === null) throw notFound(kind?.words ?? 'That');
        if (declared.needs !== 'signed-in') await authorize(tx, access, declared.needs, thing);
        const body = parseBody(contract.body ?? z.object({}), raw) as BodyOf<R>;
        const call = {
          tx,
          access,
          body,
          thing,
          request,
          query: readQuery(request),
          params,
          progress,
          id: Number(params['id']),
        };
        if (request.method === 'GET') return run(call);
        if (access.trial && !declared.evenInTrial) throw new Trial(await run(call));
        return once(tx, access, request, raw, () => run(call));
      })
      .catch((error: unknown) => {
        if (error instanceof Trial) return { ...(error.value as object | undefined), trial: true };
        throw error;
      });
  };
  const handler: APIRoute = async ({ request, params }) => {
    if (request.headers.get('accept') === 'application/x-ndjson')
      return asLines((progress) => work(request, params, progress), request);
    try {
      const value = await work(request, params, () => undefined);
      return value instanceof Response ? value : json(value);
    } catch (error) {
      return answerFault(error, request);
    }
  };
  const { needs, on, evenInTrial } = declared;
  return Object.assign(handler, { declared: { route, needs, ...(on && { on }), ...(evenInTrial && { evenInTrial }) } });
}
