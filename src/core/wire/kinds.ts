/**
 * Everything that is refused or fails as expected: a code, its kind, and the sentence for the person in front of it, with
 * what helps as its second part. `{name}` stands for what the one who refuses gives along. All sentences of refusals
 * stand here, so that they can be read, and translated, in one place.
 */
/** Kinds of refusals: HTTP status and title (RFC 9457, RFC 9110). */
export const KINDS = {
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
  busy: [503, 'Busy'],
  'database-away': [503, 'Back in a moment'],
} as const;

export type Kind = keyof typeof KINDS;
