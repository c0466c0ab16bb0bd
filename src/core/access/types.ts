export type PageId = string;
export type RoleId = string;
export type PersonId = string;
export const PAGE_STATES = ['draft', 'waiting', 'published', 'down'] as const;
/** What stands newest on a page: unsent words, words waiting for a second look, all published, taken down. */
export type PageState = (typeof PAGE_STATES)[number];

/** Everything named here must hold together; an empty scope means everywhere. */
export interface Scope {
  /** A page and all below it. */
  branch?: PageId | undefined;
  /** The page named as branch itself, without what lies below it. */
  only?: true | undefined;
  /** Only things whose author is the person who asks. */
  own?: true | undefined;
  layouts?: string[] | undefined;
  states?: PageState[] | undefined;
  /** Only these fields of a page may be changed; an allow of `page.edit` alone says so. */
  fields?: string[] | undefined;
}

export interface Grant {
  id: string;
  effect: 'allow' | 'deny';
  /** `object.verb`, `object.*` or `*`. */
  permission: string;
  scope: Scope;
}

export type DoorState = 'open' | 'look' | 'away' | 'closed';

export interface PolicyRole {
  id: RoleId;
  name: string;
  extends: readonly RoleId[];
  grants: readonly Grant[];
  /**
   * Object of a permission → state of its section's door. What a role allows, its own doors limit: closed lets nothing
   * through, look only reading.
   */
  doors?: ReadonlyMap<string, DoorState>;
}

export interface Assignment {
  role: RoleId;
  /** Limits what the role allows and denies to things that lie here. */
  branch?: PageId | undefined;
  /** Milliseconds since 1970 UTC, inclusive. */
  fromMs?: number | undefined;
  /** Milliseconds since 1970 UTC, exclusive. */
  untilMs?: number | undefined;
}

export interface PolicyPerson {
  id: PersonId;
  name: string;
  suspended?: boolean | undefined;
  assignments: readonly Assignment[];
}

/** Who tries a room by its role alone: nobody has this number. */
export const NOBODY: PersonId = '0';

/** Somebody who would hold just this role: the role alone, and who stands in while nobody holds it. */
export const sampleOf = (role: string): PolicyPerson => ({ id: NOBODY, name: 'Somebody', assignments: [{ role }] });

/** Two roles nobody may hold together. */
export type Apart = readonly [RoleId, RoleId];

export interface Policy {
  roles: ReadonlyMap<RoleId, PolicyRole>;
  people: ReadonlyMap<PersonId, PolicyPerson>;
  /** Permissions nobody may use on a revision of their own, whatever the roles say. */
  secondPerson: ReadonlySet<string>;
}

/**
 * Who may visit a page on the website: everybody, whoever has an account in force, or whoever holds one of some roles.
 */
export type Audience = { kind: 'everyone' } | { kind: 'members' } | { kind: 'roles'; roles: readonly RoleId[] };

/** Where a thing lies in the page tree. */
export interface Place {
  /** Ids from the root of the tree down to the page itself. */
  path: readonly PageId[];
  layout: string;
  state: PageState;
  author: PersonId | null;
  /** The page's own rights, or those of the nearest page above that has some; everyone when left out. */
  audience?: Audience | undefined;
}

/** Seeing a page on the website. It alone can be asked about a visitor, who has no account. */
export const VISIT = 'website.visit';

export interface Question {
  /** Null for a visitor. */
  person: PersonId | null;
  permission: string;
  /** Left out for things that have no place in the page tree. */
  place?: Place | undefined;
  /** Author of a thing without a place. */
  author?: PersonId | undefined;
  /** Everybody who wrote any of the words that are to be approved. */
  writtenBy?: readonly PersonId[] | undefined;
  /** The field of a page that is to be changed; left out when it is about changing anything of it. */
  field?: string | undefined;
  /** Milliseconds since 1970 UTC. */
  atMs: number;
}

export type Miss =
  'time' | 'door-closed' | 'door-look' | 'assignment-branch' | 'branch' | 'own' | 'layouts' | 'states' | 'fields';

/** A grant on this permission and the way it came: assignment → role held → … → role that has it. */
export interface Way {
  grant: Grant;
  assignment: Assignment;
  roles: readonly RoleId[];
}
export interface MissedWay extends Way {
  missed: Miss;
}

export type Reason =
  'allowed' | 'denied' | 'nothing-allows' | 'suspended' | 'unknown-person' | 'second-person' | 'audience';

export interface Decision {
  allowed: boolean;
  reason: Reason;
  /** The grant that decided; null when no grant did. */
  decidedBy: Way | null;
  /** Every grant that applied. */
  because: readonly Way[];
  /** On a no: the allow that came closest, and why it missed. */
  nearest: MissedWay | null;
  /** On a no: every allow on this permission that missed, the closest first. */
  missed?: readonly MissedWay[];
}
