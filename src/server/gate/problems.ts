/** Expected failures: code → HTTP status → title (RFC 9457). The detail is a sentence for the person in front of it. */
const PROBLEMS = {
  'not-signed-in': [401, 'Not signed in'],
  'wrong-sign-in': [401, 'Sign-in did not work'],
  refused: [403, 'Not in your room'],
  'foreign-request': [403, 'Request from elsewhere'],
  'tool-missing': [403, 'Made with a tool you do not have'],
  'not-found': [404, 'Not there'],
  conflict: [409, 'Somebody else was here'],
  'already-done': [409, 'Already done'],
  'bad-input': [422, 'Something does not fit'],
  'too-large': [413, 'Too large'],
  'too-many': [429, 'Too many tries'],
  misdirected: [421, 'Asked by another name'],
  broken: [500, 'Something went wrong'],
  'database-away': [503, 'Back in a moment'],
} as const;
export type ProblemCode = keyof typeof PROBLEMS;

/** A refusal or failure that the person in front of the screen can understand. */
export class Problem extends Error {
  constructor(
    readonly code: ProblemCode,
    readonly detail: string,
    readonly extra: Record<string, unknown> = {},
  ) {
    super(`${code}: ${detail}`);
  }
  get status(): number {
    return PROBLEMS[this.code][0];
  }
  get title(): string {
    return PROBLEMS[this.code][1];
  }
  /** The members of an RFC 9457 problem details object. */
  toJSON() {
    return {
      type: `/problems/${this.code}`,
      title: this.title,
      status: this.status,
      detail: this.detail,
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

export const notFound = (what: string) =>
  new Problem('not-found', `${what} is not there. It may have been removed, or the address is incomplete.`);
