import { type GivenInWords, type Kind, kindOf, KINDS, type RefusalCode, refusalInWords } from '@/core/wire';

/** What a refusal's sentence needs, left out where it needs nothing. */
type With<C extends RefusalCode> = keyof GivenInWords<C> extends never
  ? [given?: Record<never, never>, extra?: Record<string, unknown>]
  : [given: GivenInWords<C>, extra?: Record<string, unknown>];

/** A refusal or failure that the person in front of the screen can understand. */
export class Problem<C extends RefusalCode = RefusalCode> extends Error {
  readonly detail: string;
  readonly extra: Record<string, unknown>;

  constructor(
    readonly code: C,
    ...[given, extra = {}]: With<C>
  ) {
    const detail = refusalInWords(code, (given ?? {}) as GivenInWords<C>);
    super(`${code}: ${detail}`);
    this.detail = detail;
    this.extra = extra;
  }
  get kind(): Kind {
    return kindOf(this.code);
  }
  get status(): number {
    return KINDS[this.kind][0];
  }
  get title(): string {
    return KINDS[this.kind][1];
  }
  /** The members of an RFC 9457 problem details object. */
  toJSON() {
    return {
      type: `/problems/${this.code}`,
      title: this.title,
      status: this.status,
      detail: this.detail,
      kind: this.kind,
      code: this.code,
      ...this.extra,
    };
  }
  toResponse(headers: Record<string, string> = {}): Response {
    return new Response(JSON.stringify(this), {
      status: this.status,
      headers: { 'content-type': 'application/problem+json; charset=utf-8', 'cache-control': 'no-store', ...headers },
    });
  }
}

/** A refusal that one field of a form is to blame for, told there too. */
export function problemAt<C extends RefusalCode>(field: string, code: C, ...[given]: With<C>): Problem {
  const message = refusalInWords(code, (given ?? {}) as GivenInWords<C>);
  return new Problem(code, ...([given ?? {}, { faults: [{ field, message }] }] as unknown as With<C>));
}

export const notFound = (what: string) => new Problem('not-there', { what });
