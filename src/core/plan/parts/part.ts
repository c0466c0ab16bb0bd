import { z } from 'zod';
import type { Inventory } from '../../inventory';

export type OperationFault =
  'no-role' | 'in-use' | 'archived' | 'no-such-thing' | 'already-so' | 'keyholder-stays' | 'needed-stays' | 'invalid';

/** What a role is called, by its id. */
export type RoleName = (id: string) => string;

/** What an operation is done in, beside the value it changes. */
export interface OperationContext {
  inventory: Inventory;
  /** Whether it is the keyholder role that is changed; false for what concerns the plan as a whole. */
  isKeyholder: boolean;
  /** All roles of the plan. */
  roles: readonly { id: string; extends: readonly string[]; archived?: true | undefined }[];
}

/** How differences name what lies outside the part. */
export interface Telling {
  inventory: Inventory;
  /** Whose differences are asked for: those of a role, or, null, those that concern every role. */
  of: string | null;
  page: (id: string) => string;
  role: RoleName;
  /** A task as the role calls it, before or after. */
  task: (id: string, when: 'before' | 'after') => string;
}

/** What is not there though it is named, or stands there twice, with its place within the part. */
export interface PartFault {
  path: (string | number)[];
  message: string;
}

/** One named change of a value: the form it is sent in, what it does, and how the administrator would say it. */
interface PartOperation<Value> {
  schema: z.ZodObject<{ do: z.ZodLiteral<string> } & z.ZodRawShape>;
  apply(doing: OperationContext, value: Value, op: never): Value | OperationFault;
  say(inventory: Inventory, op: never, role: RoleName): string;
}

/**
 * One kind of thing a plan can set, whole: its form, what it is at first, its operations, when two of them say the
 * same, what differs between two in sentences. Everything that goes over all parts (schema, operations, differences,
 * files) reads it from here.
 */
export interface PlanPart<Value, Readable> {
  schema: z.ZodType<Value>;
  /** What a role, or a plan, begins with. */
  empty: Value;
  operations: readonly PartOperation<Value>[];
  /** The one form of all values that say the same. */
  canonical(inventory: Inventory, value: Value): unknown;
  /** One sentence a change; none exactly when the canonical forms are equal. */
  differences(telling: Telling, before: Value, after: Value): string[];
  /** As much of it as can be read of a file that is not right, so that all that is wrong can be told at once. */
  readable: z.ZodType<Readable>;
  /** What stands there twice. */
  twice(value: Readable): readonly string[];
  /** What it names that this back office, or this website, does not have. */
  unknown(inventory: Inventory, value: Readable, pages: ReadonlySet<string>): PartFault[];
  /** The same with every page it names called otherwise; left out where it names none. */
  withPages?<V extends Value | Readable>(value: V, call: (page: string) => string): V;
  /**
   * What two roles are compared by, a row each, in the same words where they agree and empty for nothing; left out
   * where one rule at a time says little.
   */
  rows?: { name: string; of(inventory: Inventory, value: Value): [name: string, says: string][] };
}

/** What a part of the plan as a whole has besides. */
export interface WholePart<Value> {
  /**
   * The value with what another says of some roles; with all it says where null is among them and it concerns every
   * role.
   */
  taking(value: Value, from: Value, ids: readonly (string | null)[]): Value;
  /**
   * For a value that is a collection: its entries by a name each, in their order, so that changes of different ones do
   * not collide; left out where it is changed as a whole.
   */
  entries?: { of(value: Value): Map<string, unknown>; from(entries: ReadonlyMap<string, unknown>): Value };
  /** The value when a role is made as a copy of another. */
  copyRole?(value: Value, from: string, to: string): Value;
  /** What two roles are compared by, as `rows` of a part of theirs. */
  rowsOf?: {
    name: string;
    of(
      inventory: Inventory,
      value: Value,
      role: string,
      telling: Pick<Telling, 'role' | 'page'> & Pick<OperationContext, 'roles'>,
    ): [name: string, says: string][];
  };
  /** What is wrong with it beside its form, in a plan with these roles. */
  cross?(value: Value, roles: ReadonlyMap<string, unknown>): PartFault[];
}

/** A part whose value is not known: for what goes over all of them. */
export interface AnyPart {
  canonical(inventory: Inventory, value: unknown): unknown;
  differences(telling: Telling, before: unknown, after: unknown): string[];
  twice(value: unknown): readonly string[];
  unknown(inventory: Inventory, value: unknown, pages: ReadonlySet<string>): PartFault[];
  withPages?(value: unknown, call: (page: string) => string): unknown;
  rows?: { name: string; of(inventory: Inventory, value: unknown): [name: string, says: string][] };
}

/** Makes the operations of a value: the name, the fields beside it, what it does and how it is said. */
export const operationsOn =
  <Value>() =>
  <const Do extends string, Shape extends z.ZodRawShape>(
    name: Do,
    shape: Shape,
    how: {
      apply: (
        doing: OperationContext,
        value: Value,
        op: z.infer<z.ZodObject<{ do: z.ZodLiteral<Do> } & Shape, z.core.$strict>>,
      ) => Value | OperationFault;
      say: (
        inventory: Inventory,
        op: z.infer<z.ZodObject<{ do: z.ZodLiteral<Do> } & Shape, z.core.$strict>>,
        role: RoleName,
      ) => string;
    },
  ) => ({ schema: z.strictObject({ do: z.literal(name), ...shape }), ...how });

export const wordsSchema = (max: number) =>
  z.string().trim().min(1, 'is empty').max(max, `has more than ${max} characters`);
/** Words that may be left out again. */
export const nameSchema = (max: number) => z.string().trim().max(max);
/** The role an operation concerns. */
export const role = z.string().min(1);

/** Text of a file, or nothing where it is none. */
export const readableText = z.string().catch('');
export const readableMany = <T extends z.ZodType>(one: T) => z.array(one).catch([]);
export const readableObject = <T extends z.ZodRawShape>(shape: T) => {
  const whole = z.object(shape);
  return whole.catch(() => whole.parse({}));
};

/** What two lists have that the other has not, a sentence each. */
export function listDifferences(
  before: readonly string[],
  after: readonly string[],
  gained: (id: string) => string,
  lost: (id: string) => string,
): string[] {
  return [
    ...after.filter((id) => !before.includes(id)).map(gained),
    ...before.filter((id) => !after.includes(id)).map(lost),
  ];
}

/** A list with one of it at another place. */
export const moved = <T>(list: readonly T[], item: T, to: number): T[] => {
  const rest = list.filter((entry) => entry !== item);
  rest.splice(Math.min(to, rest.length), 0, item);
  return rest;
};

/** A fault for each name that is not known; what is empty was not readable, and is told elsewhere. */
export const unknownNames = (
  names: readonly string[],
  isKnown: (name: string) => boolean,
  path: (i: number) => (string | number)[],
  message: (name: string) => string,
): PartFault[] =>
  names.flatMap((name, i) => (name === '' || isKnown(name) ? [] : [{ path: path(i), message: message(name) }]));
