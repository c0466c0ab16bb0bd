import type { z } from 'zod';
import { dutyRoutes } from './duties';
import { itemRoutes } from './items';
import { noticeRoutes } from './notices';
import { pageRoutes } from './pages';
import { ownRoutes, peopleRoutes } from './people';
import { planRoutes } from './plan';
import { vacancyRoutes } from './vacancies';

/**
 * What goes over the wire, by method and route: the body a request has and the answer it gets. Endpoints check by it,
 * screens send by its types.
 */
export const ROUTES = {
  ...itemRoutes,
  ...pageRoutes,
  ...noticeRoutes,
  ...peopleRoutes,
  ...ownRoutes,
  ...planRoutes,
  ...vacancyRoutes,
  ...dutyRoutes,
};
export type Routes = typeof ROUTES;
export type Route = keyof Routes;

/** What a route's body is once it was checked, and what its answer is made from. */
export type BodyOf<R extends Route> = Routes[R] extends { body: infer B extends z.ZodType } ? z.output<B> : object;
export type AnswerOf<R extends Route> = Routes[R] extends { answer: infer A extends z.ZodType } ? z.input<A> : unknown;

type Filled<S extends string> = S extends `${infer Before}[${string}]${infer After}`
  ? `${Before}${string}${Filled<After>}`
  : S;
type Path<P extends string> = P extends `${infer Before}?${string}` ? Before : P;
/** The route that an address with its numbers filled in is one of. */
export type RouteAt<M extends string, P extends string> = P extends string
  ? { [R in Route]: `${M} ${Path<P>}` extends Filled<R> ? R : never }[Route]
  : never;

/** What is sent there, and what is answered. */
export type Sends<R extends Route> = R extends Route
  ? Routes[R] extends { body: infer B extends z.ZodType }
    ? z.input<B>
    : undefined
  : never;
export type Gets<R extends Route> = R extends Route
  ? Routes[R] extends { answer: infer A extends z.ZodType }
    ? z.output<A>
    : object
  : never;
/** The body a request there is given; nothing can be sent to an address that no route has. */
export type Body<R extends Route> = [R] extends [never]
  ? [noSuchRoute: never]
  : undefined extends Sends<R>
    ? [body?: undefined]
    : [body: Sends<R>];
