import { TZDate } from '@date-fns/tz';
import Logic from 'logic-solver';
import { describe, expect, it } from 'vitest';
import { openToolBundle, readToolQuestion, resolveTools, type ToolBundle } from '@/core/toolbar';
import { at, FIELDS, makeBundle, TOOLS } from './toolbars';
import { randomFrom } from './worlds';

// Toolbars by rule as logic, given to a solver of the registry (logic-solver 2.0.1, MiniSat): who is meant, what a set
// holds and which rule has the last word are formulas, and the tools are what every model of them has.

const SEED = 20_261_129;
type Rule = ToolBundle['rules'][number];

/** What the formulas of a question make of each tool. */
function solved(bundle: ToolBundle, asked: { person: string; page: string; field: string; at: string }): string[] {
  const solver = new Logic.Solver();
  const person = bundle.people.find((one) => one.id === asked.person);
  const page = bundle.pages.find((one) => one.id === asked.page);
  if (!person || !page) throw new Error('no such question');
  const parentOf = (id: string) => bundle.pages.find((one) => one.id === id)?.parent ?? null;
  const depthOf = (id: string): number => {
    const parent = parentOf(id);
    return parent === null ? 1 : 1 + depthOf(parent);
  };
  const no = Logic.FALSE;
  const iff = (name: string, formula: Logic.Formula) => solver.require(Logic.equiv(name, formula));

  // below(a, b): a is b or lies below it. builds(a, b): role a is b or builds on it. holds(s, t): a set holds a tool.
  for (const { id } of bundle.pages)
    for (const { id: other } of bundle.pages)
      iff(
        `below ${id} ${other}`,
        id === other ? Logic.TRUE : parentOf(id) === null ? no : Logic.or(`below ${parentOf(id)} ${other}`),
      );
  for (const role of bundle.roles)
    for (const { id: other } of bundle.roles)
      iff(
        `builds ${role.id} ${other}`,
        role.id === other ? Logic.TRUE : Logic.or(no, ...role.extends.map((one) => `builds ${one} ${other}`)),
      );
  for (const { id, base, add, take } of bundle.profiles)
    for (const tool of TOOLS)
      iff(
        `in ${id} ${tool}`,
        Logic.or(
          add.includes(tool) ? Logic.TRUE : no,
          base !== undefined && !take.includes(tool) ? `in ${base} ${tool}` : no,
        ),
      );
  // A role counts where an assignment of it is in force and its branch holds the page.
  const now = Date.parse(asked.at);
  for (const { id } of bundle.roles)
    iff(
      `counts ${id}`,
      Logic.or(
        no,
        ...person.assignments
          .filter(
            (a) =>
              !person.suspended &&
              a.role === id &&
              (!a.from || Date.parse(a.from) <= now) &&
              (!a.until || now < Date.parse(a.until)),
          )
          .map((a) => (a.branch === undefined ? Logic.TRUE : `below ${page.id} ${a.branch}`)),
      ),
    );
  const weekday = new TZDate(now, bundle.timeZone ?? 'UTC').getDay() || 7;
  const here = ({ when }: Rule): Logic.Formula =>
    Logic.and(
      !when.fields || when.fields.includes(asked.field) ? Logic.TRUE : no,
      !when.layouts || when.layouts.includes(page.layout) ? Logic.TRUE : no,
      !when.states || when.states.includes(page.state) ? Logic.TRUE : no,
      !when.days || when.days.includes(weekday) ? Logic.TRUE : no,
      when.branch === undefined ? Logic.TRUE : `below ${page.id} ${when.branch}`,
    );
  const isFor = ({ when }: Rule, role: string): Logic.Formula =>
    when.roles ? Logic.or(no, ...when.roles.map((named) => `builds ${role} ${named}`)) : Logic.TRUE;
  const isStronger = (a: Rule, b: Rule, role: string): boolean => {
    const marks = ({ when }: Rule) => [
      Number(when.fields !== undefined),
      when.branch === undefined ? 0 : depthOf(when.branch),
      Number(when.layouts !== undefined),
      Number(when.states !== undefined),
      Number(when.days !== undefined),
      when.roles === undefined ? 0 : when.roles.includes(role) ? 2 : 1,
      bundle.rules.indexOf(when === a.when ? a : b),
    ];
    const [left, right] = [marks(a), marks(b)];
    const differs = left.findIndex((mark, i) => mark !== right[i]);
    return (left[differs] ?? 0) > (right[differs] ?? 0);
  };
  const speaks = ({ then }: Rule, tool: string) =>
    then.use !== undefined || (then.add?.includes(tool) ?? false) || (then.take?.includes(tool) ?? false);
  const gives = ({ then }: Rule, tool: string): Logic.Formula =>
    then.use === undefined ? (then.add ? Logic.TRUE : no) : `in ${then.use} ${tool}`;
  for (const tool of TOOLS) {
    for (const { id: role } of bundle.roles) {
      const words = bundle.rules.filter((rule) => speaks(rule, tool));
      // The tool is there when the rule that has the last word on it gives it.
      iff(
        `has ${role} ${tool}`,
        Logic.or(
          no,
          ...words.map((rule) =>
            Logic.and(
              here(rule),
              isFor(rule, role),
              gives(rule, tool),
              ...words
                .filter((other) => other !== rule && isStronger(other, rule, role))
                .map((other) => Logic.not(Logic.and(here(other), isFor(other, role)))),
            ),
          ),
        ),
      );
    }
    iff(
      `final ${tool}`,
      Logic.and(
        Logic.or(no, ...bundle.roles.map(({ id }) => Logic.and(`counts ${id}`, `has ${id} ${tool}`))),
        ...bundle.rules
          .filter(({ then }) => then.cap && !then.cap.includes(tool))
          .map((rule) =>
            Logic.not(
              Logic.and(
                here(rule),
                Logic.or(no, ...bundle.roles.map(({ id }) => Logic.and(`counts ${id}`, isFor(rule, id)))),
              ),
            ),
          ),
      ),
    );
  }
  const model = solver.solve();
  if (!model) throw new Error('the formulas contradict one another');
  const tools = TOOLS.filter((tool) => model.evaluate(`final ${tool}`));
  // There is no other model in which a tool is otherwise.
  const other = Logic.or(...TOOLS.map((tool) => (tools.includes(tool) ? Logic.not(`final ${tool}`) : `final ${tool}`)));
  if (solver.solveAssuming(other)) throw new Error('the formulas leave it open');
  return tools;
}

describe(`toolbars by rule and a solver (seed ${SEED})`, () => {
  it('agree on 250 questions about random websites', () => {
    let some = 0;
    for (let n = 0; n < 250; n++) {
      const random = randomFrom(SEED + n);
      const bundle = makeBundle(random);
      const opened = openToolBundle(bundle);
      if (!opened.ok) throw new Error(JSON.stringify(opened.faults));
      const asked = {
        person: random.oneOf(bundle.people).id,
        page: random.oneOf(bundle.pages).id,
        field: random.oneOf(FIELDS),
        at: at(random.below(20)),
      };
      const read = readToolQuestion(opened, asked);
      if (!read.ok) throw new Error(JSON.stringify(read.faults));
      const { tools } = resolveTools(opened.world, read.question.roles, read.question.spot);
      expect(tools, `world ${n}`).toEqual(solved(bundle, asked));
      if (tools.length > 0) some++;
    }
    expect(some).toBeGreaterThan(60);
  });
});
