import { paint, type Bits } from './bits';
import { closure, covers, missedDoor } from './decide';
import { Conditions } from './conditions';
import { bare, mergedOf, pruned, type MergedRule } from './merged';
import { NOWHERE, numberPages, type Tree, type TreePage } from './tree';
import { ALL, NONE, Rules, STRIDE } from './ruleArray';
import type { Policy, PolicyPerson, PolicyRole, RoleId } from './types';
import { Windows } from './windows';

/**
 * A policy made fast: everybody, every permission and every page of a site, numbered once at the edge.
 *
 * Pages are numbered in pre-order, so that a branch is an interval and lying in it two comparisons. For each person and
 * permission the grants of all roles held (their closure, doors and assignment limits worked in) are merged into a
 * few rules in one typed array, denies first: the first that holds decides. Answers like `decide` for everything but
 * the two-person rule, a page's own rights for visitors and single fields of a page, which concern one thing at a time.
 */
export class AccessIndex {
  readonly tree: Tree;
  readonly permissions: readonly string[];
  readonly people: readonly PolicyPerson[];
  private readonly permissionNumbers: ReadonlyMap<string, number>;
  private readonly personNumbers: ReadonlyMap<string, number>;
  private readonly roles: Map<RoleId, PolicyRole>;
  private readonly assigned: PolicyPerson[];

  /**
   * One cell for each permission × person, `STRIDE` numbers: the first rule without its window, so that most questions
   * are answered by one read of memory, and where in `rules` more stand (0 for none). A cell whose first rule has a
   * window begins with an interval nothing lies in.
   */
  private readonly cells: Int32Array;
  /** For each permission × person where in `rules` those stand that hold for things lying nowhere. */
  private readonly nowhere: Int32Array;
  private readonly rules = new Rules();

  private readonly conditions: Conditions;
  private readonly windows = new Windows();

  private readonly coveredBy = new Map<string, number[]>();
  private readonly roleRules = new Map<RoleId, (readonly MergedRule[])[]>();

  /** Compiles a policy. `pages` in any order, each parent among them; `permissions` are all that can be asked about. */
  constructor(policy: Policy, pages: readonly TreePage[], permissions: readonly string[]) {
    this.permissions = permissions;
    this.permissionNumbers = new Map(permissions.map((id, i) => [id, i]));
    this.roles = new Map(policy.roles);
    this.assigned = [...policy.people.values()];
    this.people = this.assigned;
    this.personNumbers = new Map(this.assigned.map((person, i) => [person.id, i]));
    this.tree = numberPages(pages, this.personNumbers);
    this.conditions = new Conditions(this.tree);
    this.cells = new Int32Array(this.assigned.length * permissions.length * STRIDE);
    this.nowhere = new Int32Array(this.assigned.length * permissions.length);
    const sameAs = new Map<string, number>();
    for (let p = 0; p < this.assigned.length; p++) {
      const person = this.assigned[p] as PolicyPerson;
      const key = person.suspended
        ? ''
        : person.assignments
            .map((a) => `${a.role}\n${a.branch ?? ''}\n${a.fromMs ?? ''}\n${a.untilMs ?? ''}`)
            .join('\n\n');
      const twin = sameAs.get(key);
      if (twin === undefined) {
        sameAs.set(key, p);
        this.compilePerson(p);
      } else for (let a = 0; a < permissions.length; a++) this.copyCell(p, a, twin, a);
    }
  }

  /** Number of a person; -1 for nobody. */
  person(id: string): number {
    return this.personNumbers.get(id) ?? -1;
  }
  /** Number of a permission; -1 when it is not among those compiled. */
  permission(id: string): number {
    return this.permissionNumbers.get(id) ?? -1;
  }
  /** Number of a page, from 1; -1 when there is none of that id. */
  page(id: string): number {
    return this.tree.number(id) ?? -1;
  }

  /**
   * Whether a person may do something to a page (or to a thing that lies `NOWHERE`, whose author is given), all by
   * number, at an instant in ms since 1970.
   */
  may(person: number, permission: number, page: number, atMs: number, author?: number): boolean {
    const { cells } = this;
    if (page === NOWHERE)
      return this.mayByMore(
        this.nowhere[permission * this.assigned.length + person] as number,
        person,
        page,
        atMs,
        author,
      );
    const at = (permission * this.assigned.length + person) * STRIDE;
    if (page >= (cells[at] as number) && page <= (cells[at + 1] as number)) {
      const packed = cells[at + 2] as number;
      const condition = packed < 0 ? ~packed : packed;
      if (condition === 0 || this.holds(condition, person, page, author)) return packed >= 0;
    }
    const more = cells[at + 3] as number;
    return more !== NONE && this.mayByMore(more, person, page, atMs, author);
  }

  private mayByMore(more: number, person: number, page: number, atMs: number, author: number | undefined): boolean {
    const rules = this.rules.values;
    const end = more + 1 + STRIDE * (rules[more] as number);
    for (let i = more + 1; i < end; i += STRIDE) {
      if (page < (rules[i] as number) || page > (rules[i + 1] as number)) continue;
      const packed = rules[i + 2] as number;
      const window = rules[i + 3] as number;
      if (window !== 0 && !this.windows.isOpen(window, atMs)) continue;
      const condition = packed < 0 ? ~packed : packed;
      if (condition !== 0 && !this.holds(condition, person, page, author)) continue;
      return packed >= 0;
    }
    return false;
  }

  private holds(condition: number, person: number, page: number, author: number | undefined): boolean {
    if (this.conditions.isOwn(condition) && (author ?? this.tree.authors[page]) !== person) return false;
    return this.conditions.fits(condition, page);
  }

  /** Numbers of everybody who may do something to a page at an instant. */
  whoCan(permission: number, page: number, atMs: number): number[] {
    const found: number[] = [];
    for (let p = 0; p < this.assigned.length; p++) if (this.may(p, permission, page, atMs)) found.push(p);
    return found;
  }

  /**
   * Everything one person can do at an instant: for each permission the set of page numbers, bit 0 for what lies
   * `NOWHERE` and is nobody's. Permissions with the same rules share one set; treat it as read-only.
   */
  whatCan(person: number, atMs: number): Bits[] {
    const known = new Map<string, Bits>();
    return this.permissions.map((_, permission) => {
      const rules = this.rulesAt(person, permission);
      const alsoNowhere = this.may(person, permission, NOWHERE, atMs, -1);
      const key = `${alsoNowhere} ${rules.join(';')}`;
      let bits = known.get(key);
      if (!bits) {
        known.set(key, (bits = this.allowedBits(rules, person, atMs)));
        paint(bits, NOWHERE, NOWHERE, null, alsoNowhere);
      }
      return bits;
    });
  }

  /** The rules of a cell as they were put there. */
  private rulesAt(person: number, permission: number): MergedRule[] {
    const at = this.cellAt(person, permission);
    const [lo, hi, condition, more] = this.cells.subarray(at, at + STRIDE) as unknown as [
      number,
      number,
      number,
      number,
    ];
    const out: MergedRule[] = lo <= hi ? [[lo, hi, condition, 0]] : [];
    for (let k = 0; k < (this.rules.values[more] as number); k++)
      out.push(
        Array.from(
          this.rules.values.subarray(more + 1 + STRIDE * k, more + 1 + STRIDE * (k + 1)),
        ) as unknown as MergedRule,
      );
    return out;
  }

  private cellAt(person: number, permission: number): number {
    return (permission * this.assigned.length + person) * STRIDE;
  }

  private allowedBits(rules: readonly MergedRule[], person: number, atMs: number): Bits {
    const bits = new Uint32Array(this.tree.words);
    // Denies stand first and win: allows are painted, from the last rule back to the first, then denies wiped out.
    for (const [lo, hi, packed, window] of rules.toReversed()) {
      const condition = bare(packed);
      if (!this.windows.isOpen(window, atMs)) continue;
      const set = packed >= 0;
      if (this.conditions.isOwn(condition)) {
        for (const page of this.tree.pagesBy(person))
          if (page >= lo && page <= hi && this.holds(condition, person, page, person))
            paint(bits, page, page, null, set);
      } else paint(bits, lo, hi, condition === 0 ? null : this.conditions.bitsOf(condition), set);
    }
    return bits;
  }

  /** Puts a person's new assignments in the place of the old ones. */
  recompilePerson(person: PolicyPerson): void {
    const p = this.personNumbers.get(person.id);
    if (p === undefined) throw new RangeError(`nobody has the id "${person.id}"; a new person needs a new index`);
    this.assigned[p] = person;
    this.compilePerson(p);
  }

  /** Puts a role's new grants in the place of the old ones, for everybody who holds it or a role that extends it. */
  recompileRole(role: PolicyRole): void {
    this.roles.set(role.id, role);
    const touched = new Set<RoleId>();
    for (const id of this.roles.keys())
      if (closure({ roles: this.roles }, id).some((c) => c.role.id === role.id)) touched.add(id);
    for (const id of touched) this.roleRules.delete(id);
    for (let p = 0; p < this.assigned.length; p++)
      if ((this.assigned[p] as PolicyPerson).assignments.some((a) => touched.has(a.role))) this.compilePerson(p);
  }

  private compilePerson(p: number): void {
    const { assignments, suspended } = this.assigned[p] as PolicyPerson;
    const rows = suspended
      ? []
      : assignments.map((assignment) => ({
          assignment,
          rules: this.rulesOfRole(assignment.role),
          branch: assignment.branch === undefined ? undefined : this.tree.interval(assignment.branch),
          window: this.windows.number(assignment.fromMs, assignment.untilMs),
        }));
    // The lists of a role are shared by permissions it treats alike; what is made of them is shared as well.
    for (let a = 0; a < this.permissions.length; a++) {
      let twin = 0;
      while (twin < a && !rows.every((row) => row.rules[twin] === row.rules[a])) twin++;
      if (twin < a) this.copyCell(p, a, p, twin);
      else this.putRules(p, a, mergedOf(rows, a));
    }
  }

  private copyCell(person: number, permission: number, fromPerson: number, fromPermission: number): void {
    const from = this.cellAt(fromPerson, fromPermission);
    this.cells.copyWithin(this.cellAt(person, permission), from, from + STRIDE);
    this.nowhere[permission * this.assigned.length + person] = this.nowhere[
      fromPermission * this.assigned.length + fromPerson
    ] as number;
  }

  private putRules(person: number, permission: number, all: readonly MergedRule[]): void {
    const anywhere = all.filter((rule) => rule[0] === NOWHERE);
    const [lead] = anywhere;
    this.nowhere[permission * this.assigned.length + person] =
      lead && lead[2] === 0 && lead[3] === 0 ? ALL : this.rules.put(anywhere);
    const rules = all.filter((rule) => rule[1] !== NOWHERE);
    const at = this.cellAt(person, permission);
    const first = rules[0]?.[3] === 0 ? rules[0] : undefined;
    this.cells[at] = first ? first[0] : 1;
    this.cells[at + 1] = first ? first[1] : 0;
    this.cells[at + 2] = first ? first[2] : 0;
    this.cells[at + 3] = this.rules.put(first ? rules.slice(1) : rules);
  }

  /** Merged rules of one role as held, by permission number; permissions it treats alike share one list. */
  private rulesOfRole(id: RoleId): (readonly MergedRule[])[] {
    const known = this.roleRules.get(id);
    if (known) return known;
    const held = this.roles.get(id);
    const lists: MergedRule[][] = this.permissions.map(() => []);
    for (const { role } of closure({ roles: this.roles }, id))
      for (const grant of role.grants) {
        const { branch, only, own, layouts, states } = grant.scope;
        const interval =
          branch === undefined
            ? ([layouts || states ? 1 : NOWHERE, this.tree.size] as const)
            : this.tree.interval(branch);
        if (!interval) continue;
        const last = only ? interval[0] : interval[1];
        const condition = this.conditions.number({ own: own ?? false, layouts, states });
        const rule: MergedRule = [interval[0], last, grant.effect === 'deny' ? ~condition : condition, 0];
        for (const a of this.coveredPermissions(grant.permission))
          if (!missedDoor(held, grant, this.permissions[a] as string)) (lists[a] as MergedRule[]).push(rule);
      }
    const shared = new Map<string, readonly MergedRule[]>();
    const out = lists.map((list) => {
      const rules = pruned(list);
      const key = rules.join(';');
      const same = shared.get(key) ?? rules;
      shared.set(key, same);
      return same;
    });
    this.roleRules.set(id, out);
    return out;
  }

  private coveredPermissions(pattern: string): number[] {
    let list = this.coveredBy.get(pattern);
    if (!list)
      this.coveredBy.set(pattern, (list = this.permissions.flatMap((id, a) => (covers(pattern, id) ? [a] : []))));
    return list;
  }
}
