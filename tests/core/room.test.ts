import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { applyOperation, getRole, type Operation, type Plan } from '@/core/plan';
import { askerFor, figures, lossBetween, room, shownDoors } from '@/core/room';
import { makeFinder } from '@/core/ask';
import { makeInventory, type Section, type TaskTemplate } from '@/core/inventory';
import { mendMissing, missingInWords, needsOf } from '@/core/task';
import { tourMinutes } from '@/core/tour';
import { demoPlan } from '@/demo/plan';
import { columnsOf } from '@/core/dashboard';
import { allow, deny, person, plan, PLACES, role, withTools } from './plans';
import { inventory } from '../inventory';

const places = Object.values(PLACES);
const demo = demoPlan(inventory, (key) => ({ home: '1', harbours: '2', cafe: '4' })[key] ?? '1');
const at = (p: Plan, who = person('ines', { role: 'harbour-desk' }), nowMs = 0) =>
  room({ inventory, plan: p, person: who, places, nowMs });
const after = (...ops: Operation[]): Plan =>
  ops.reduce((p, op) => {
    const a = applyOperation(inventory, p, op);
    if (!a.ok) throw new Error(a.detail);
    return a.plan;
  }, demo);
const door = (section: string, state: 'open' | 'look' | 'away' | 'closed'): Operation => ({
  do: 'set-door',
  role: 'harbour-desk',
  section,
  state,
});

describe('what a task needs', () => {
  it('is also to get to every screen its moves lie on', () => {
    const section = (id: string): Section => ({
      id,
      name: id,
      purpose: '',
      icon: 'file',
      care: 'everyday',
      face: 'door',
      home: `${id}.home`,
      permissions: [{ id: `${id}.view`, name: '', care: 'everyday', placed: false }],
      screens: [{ id: `${id}.home`, name: '', path: `/room/${id}`, needs: `${id}.view` }],
      controls: [{ id: `${id}.press`, name: '', screen: `${id}.home`, description: '' }],
      tasks: [],
    });
    const task: TaskTemplate = {
      id: 'a.task',
      name: '',
      purpose: '',
      said: [],
      needs: [],
      screen: 'a.home',
      moves: ['a.press', 'b.press'].map((control) => ({ control, await: 'press' as const, title: '', text: '' })),
    };
    const small = makeInventory([{ ...section('a'), tasks: [task] }, section('b')], { timeZone: 'UTC' });
    expect(needsOf(small, task)).toEqual({ somewhere: ['a.view', 'b.view'], onThing: [] });
  });
});

describe('the room of a role', () => {
  it('holds the doors, tools, widgets and tasks of its plan and nothing else', () => {
    const r = at(demo);
    expect(shownDoors(r).map((d) => [d.name, d.state])).toEqual([
      ['Pages', 'open'],
      ['Sailing notices', 'open'],
      ['Pictures', 'look'],
    ]);
    expect(r.writing.of('page', PLACES.quay, 'body')).toEqual({
      tools: [
        'bold',
        'italic',
        ...['page', 'file', 'web', 'mail', 'phone'].map((kind) => `link.${kind}`),
        'heading.2',
        'heading.3',
        'bullets',
        'paste.form',
        'mode.preview',
      ],
      keep: {},
      groups: [],
    });
    expect(columnsOf(r.dashboard).map((column) => column.map(({ id }) => id))).toEqual([
      ['pages.unfinished', 'pages.coming'],
      ['notices.now', 'frame.word'],
      ['visits.week'],
    ]);
    expect(r.tasks.map((t) => [t.name, t.verdict.can])).toEqual([
      ['Post a sailing notice', true],
      ['End a sailing notice', true],
      ['Change the words on a harbour page', true],
      ['Swap a harbour picture', true],
      ['Find a page', true],
      ['See whom to ask about a page', false],
    ]);
  });
  it('has the tools and tasks of every role that is held, not of the first alone', () => {
    const p = withTools(
      plan(role('a', { tasks: [{ task: 'pages.find' }] }), role('b', { tasks: [{ task: 'notices.post' }] })),
      { a: ['bold'], b: ['link.page', 'mode.code', 'bold'] },
    );
    for (const order of [
      ['a', 'b'],
      ['b', 'a'],
    ]) {
      const r = at(p, person('ines', ...order.map((one) => ({ role: one }))));
      expect(r.writing.of('page', PLACES.quay, 'body').tools).toEqual(['bold', 'link.page', 'mode.code']);
      expect(r.tasks.map((t) => t.task).sort()).toEqual(['notices.post', 'pages.find']);
    }
  });
  it('has its tools in groups as the set has them, or the nearest base that says', () => {
    const made = withTools(plan(role('a'), role('b')), { a: ['bold'], b: ['bold'] });
    const [first, second] = made.toolbars.sets;
    if (!first || !second) throw new Error('no sets');
    const p: Plan = {
      ...made,
      toolbars: {
        ...made.toolbars,
        sets: [
          { ...first, groups: ['inserts', 'words'] },
          { ...second, base: 'a' },
        ],
      },
    };
    const groups = (...held: string[]) =>
      at(p, person('ines', ...held.map((one) => ({ role: one })))).writing.of('page', PLACES.quay, 'body').groups;
    expect(groups('b')).toEqual(['inserts', 'words']);
    expect(groups('b', 'a')).toEqual(['inserts', 'words']);
    expect(groups()).toEqual([]);
    expect(at(made, person('ines', { role: 'b' })).writing.of('page', PLACES.quay, 'body').groups).toEqual([]);
  });
  it('lets stand what is stricter of a text as it stands and as a draft; where no rule speaks, it is as usual', () => {
    const made = withTools(plan(role('a')), { a: ['bold'] });
    const keep = { table: 'free', heading: 'whole', bulletList: 'words' } as const;
    const p: Plan = {
      ...made,
      toolbars: {
        ...made.toolbars,
        rules: [
          ...made.toolbars.rules,
          { id: 'q', when: { states: ['published'] }, then: { add: ['italic'] }, keep },
          { id: 'r', when: { states: ['draft'] }, then: { add: [] }, keep: { bulletList: 'free' } },
        ],
      },
    };
    const { of } = at(p, person('ines', { role: 'a' })).writing;
    expect(of('page', PLACES.root, 'body')).toMatchObject({
      tools: ['bold'],
      keep: { table: 'whole', heading: 'whole', bulletList: 'words' },
    });
  });
  it('says what comes closest on some page, where it is forbidden on the first', () => {
    // Forbidden at the top; on the page whose author somebody else is it only wants own work.
    const p = plan(
      role('r', {
        doors: [{ section: 'pages', state: 'open' }],
        grants: [deny('page.edit', { branch: '1', states: ['published'] }), allow('page.edit', { own: true })],
      }),
    );
    const answer = askerFor({ inventory, plan: p, person: person('nils', { role: 'r' }), places, nowMs: 0 }).best(
      'page.edit',
    );
    expect(answer).toMatchObject({ allowed: false, reason: 'nothing-allows', nearest: { missed: 'own' } });
  });
  it('opens no door to what may not even be read', () => {
    const p = plan(role('r', { doors: [{ section: 'pages', state: 'open' }] }));
    expect(at(p, person('ines', { role: 'r' })).doors).toEqual([]);
  });
  it('shows an open door as look only where there is nothing to do behind it', () => {
    const p = plan(role('r', { doors: [{ section: 'notices', state: 'open' }], grants: [allow('notice.view')] }));
    expect(at(p, person('ines', { role: 'r' })).doors[0]?.state).toBe('look');
  });
  it('finds what lies only on a branch', () => {
    const p = plan(
      role('r', {
        doors: [{ section: 'pages', state: 'open' }],
        grants: [allow('page.view', { branch: '3' }), allow('page.edit', { branch: '3' })],
      }),
    );
    expect(at(p, person('ines', { role: 'r' })).doors[0]?.state).toBe('open');
  });
  it('is the best of several roles, and empties when they end', () => {
    const who = person('ines', { role: 'second-look' }, { role: 'harbour-desk', untilMs: 1000 });
    expect(at(demo, who).doors.map((d) => [d.section, d.state])).toContainEqual(['pages', 'open']);
    expect(at(demo, who, 1000).roles.map((r) => r.id)).toEqual(['second-look']);
    expect(at(demo, { ...who, suspended: true })).toMatchObject({ roles: [], doors: [], tasks: [] });
  });
});

describe('whether a task can be done', () => {
  const verdict = (p: Plan, task: string) => at(p).tasks.find((t) => t.task === task)?.verdict;
  it('names the one thing that is missing, and what would mend it', () => {
    expect(verdict(after(door('notices', 'closed')), 'notices.post')).toEqual({
      can: false,
      missing: { kind: 'door', id: 'notices', state: 'closed' },
    });
    expect(verdict(after(door('pages', 'look')), 'pages.words')).toEqual({
      can: false,
      missing: { kind: 'door', id: 'pages', state: 'look' },
    });
    expect(verdict(after(door('notices', 'away')), 'notices.post')).toEqual({ can: true });
    const noLink = after(
      { do: 'set-tool', role: 'harbour-desk', tool: 'link.page', on: false },
      { do: 'tick-task', role: 'harbour-desk', task: 'pages.link', ticked: true },
    );
    expect(verdict(noLink, 'pages.link')).toEqual({ can: false, missing: { kind: 'tool', id: 'link.page' } });
    expect(missingInWords(inventory, { kind: 'tool', id: 'link.page' })).toBe('The toolbar lacks “Link to a page”.');
  });
  it('can be mended step by step until it can be done', () => {
    let p = demo;
    for (let i = 0; i < 5; i++) {
      const v = verdict(p, 'people.see');
      if (!v || v.can) break;
      const op = mendMissing('harbour-desk', v.missing);
      if (!op) throw new Error('nothing mends it');
      const a = applyOperation(inventory, p, op);
      if (!a.ok) throw new Error(a.detail);
      p = a.plan;
    }
    expect(verdict(p, 'people.see')).toEqual({ can: true });
  });
  it('leaves a deny to a person', () => {
    const p = plan(
      role('r', {
        tasks: [{ task: 'notices.post' }],
        doors: [{ section: 'notices', state: 'open' }],
        grants: [allow('notice.*'), deny('notice.post')],
      }),
    );
    const v = at(p, person('ines', { role: 'r' })).tasks[0]?.verdict;
    expect(v).toEqual({ can: false, missing: { kind: 'denied', id: 'notice.post' } });
    expect(v && !v.can ? mendMissing('r', v.missing) : 'x').toBeUndefined();
  });
});

describe('figures and losses', () => {
  it('count choices, tasks, idle doors and stops that point at nothing', () => {
    expect(figures(inventory, at(demo))).toEqual({
      choices: 13,
      tasks: 6,
      tasksThatCan: 5,
      idleDoors: ['Pictures'],
      staleStops: [],
    });
    // Of tasks that can be done each stop that points at nothing counts; what cannot be done tells so itself.
    const room = at(demo);
    const lost = room.tasks.map((task) => ({
      ...task,
      tour: {
        ...task.tour,
        stops: task.tour.stops.map((stop, i) => (i === 0 ? { ...stop, stale: 'It is gone.' } : stop)),
      },
    }));
    expect(figures(inventory, { ...room, tasks: lost }).staleStops.map(({ task }) => task)).toEqual(
      lost.filter(({ verdict }) => verdict.can).map(({ name }) => name),
    );
  });
  it('say what closing a door takes away', () => {
    const loss = lossBetween(at(demo), at(after(door('notices', 'closed'))));
    // Stops of tasks that cannot be done any more are not told again.
    expect(loss).toEqual({ tasks: ['Post a sailing notice', 'End a sailing notice'], stops: [] });
    expect(lossBetween(at(demo), at(demo))).toEqual({ tasks: [], stops: [] });
    // A stop lost by a task that can be done all the same is named; one that was lost before is not.
    const [first, second, ...others] = at(demo).tasks;
    if (!first || !second) throw new Error('two tasks');
    const without = (task: typeof first, which: number) => ({
      ...task,
      tour: {
        ...task.tour,
        stops: task.tour.stops.map((stop, i) => (i === which ? { ...stop, stale: 'It is gone.' } : stop)),
      },
    });
    const before = { ...at(demo), tasks: [without(first, 0), second, ...others] };
    const then = { ...at(demo), tasks: [without(first, 0), without(second, 1), ...others] };
    expect(lossBetween(before, then)).toEqual({
      tasks: [],
      stops: [{ task: second.name, stop: second.tour.stops[1]?.title }],
    });
  });
});

describe('tours', () => {
  const tour = (p: Plan, task: string) => at(p).tasks.find((t) => t.task === task)?.tour;
  it('begin at the door and follow the moves, in the administrator’s words', () => {
    const t = tour(demo, 'notices.post');
    expect(t?.stops.map((s) => s.control)).toEqual([
      'door.notices',
      'notices.list.post',
      'notices.form.text',
      'notices.form.place',
      'notices.form.until',
      'notices.form.send',
    ]);
    expect(t?.stops[0]).toMatchObject({ title: 'Notices are behind this door', path: '/room' });
    expect(t?.stops.every((s) => s.stale === null)).toBe(true);
  });
  it('say of a stop what the administrator says of it, title and text each by itself', () => {
    const said = plan(
      role('harbour-desk', {
        tasks: [{ task: 'notices.post' }],
        doors: [{ section: 'notices', state: 'open' }],
        grants: [allow('notice.*')],
        tours: {
          'notices.post': {
            'notices.form.text': { text: 'Say which boat.' },
            'notices.form.send': { title: 'Out with it' },
          },
        },
      }),
    );
    const [bare, own] = [tour(demo, 'notices.post'), tour(said, 'notices.post')].map(
      (t) => new Map(t?.stops.map((s) => [s.key, s])),
    );
    expect(own?.get('notices.form.text')).toMatchObject({
      text: 'Say which boat.',
      title: bare?.get('notices.form.text')?.title,
    });
    expect(own?.get('notices.form.send')).toMatchObject({
      title: 'Out with it',
      text: bare?.get('notices.form.send')?.text,
    });
  });
  it('call a control what the edit screen calls it there, and both where it has two names', () => {
    const named = (label: string, layouts?: string[]) => ({
      id: `named-${label.length}`,
      when: { roles: ['cafe-manager'], fields: ['pages.edit.note'], ...(layouts && { layouts }) },
      then: { label },
    });
    const names = (screens: Plan['screens']) =>
      at({ ...demo, screens }, person('juno', { role: 'cafe-manager' }))
        .tasks.flatMap((t) => t.tour.stops)
        .filter(({ control }) => control === 'pages.edit.note')
        .map(({ controlName }) => controlName);
    expect(new Set(names([]))).toEqual(new Set(['What did you change?']));
    expect(new Set(names([named('What is new?')]))).toEqual(new Set(['What is new?']));
    // By one layout alone, which not all pages have that are theirs.
    expect(new Set(names([named('What is new?', ['plain'])]))).toEqual(
      new Set(['What did you change?” or “What is new?']),
    );
  });
  it('leave out and move stops as a list of cards would, whatever is done in whatever order', () => {
    const GIVEN = tour(demo, 'notices.post')?.stops.map(({ key }) => key) ?? [];
    const of = { role: 'harbour-desk', task: 'notices.post' };
    const act = fc.record({ stop: fc.constantFrom(...GIVEN), what: fc.constantFrom('out', 'in', 'up', 'down') });
    fc.assert(
      fc.property(fc.array(act, { maxLength: 12 }), (acts) => {
        // A second, plain program: cards on a table, and those put aside.
        let cards = GIVEN.map((key) => ({ key, out: false }));
        let now = demo;
        for (const { stop, what } of acts) {
          const operation: Operation =
            what === 'out' || what === 'in'
              ? { do: 'leave-stop-out', ...of, stop, out: what === 'out' }
              : { do: 'move-stop', ...of, stop, by: what === 'up' ? -1 : 1 };
          const applied = applyOperation(inventory, now, operation);
          if (applied.ok) now = applied.plan;
          const card = cards.find(({ key }) => key === stop);
          if (!card) continue;
          if (what === 'out' || what === 'in') {
            cards = cards.map((one) => (one === card ? { ...one, out: what === 'out' } : one));
            continue;
          }
          const shown = cards.filter(({ out }) => !out);
          const beside = shown[shown.indexOf(card) + (what === 'up' ? -1 : 1)];
          if (card.out || !beside) {
            expect(applied.ok).toBe(false);
            continue;
          }
          const [from, to] = [cards.indexOf(card), cards.indexOf(beside)];
          const rest = cards.filter((one) => one !== card);
          cards = [...rest.slice(0, to), card, ...rest.slice(to)];
          expect(cards[to]?.key, String(from)).toBe(stop);
        }
        const made = tour(now, 'notices.post');
        expect(made?.stops.map(({ key }) => key)).toEqual(cards.filter(({ out }) => !out).map(({ key }) => key));
        expect(new Set(made?.left.map(({ key }) => key))).toEqual(
          new Set(cards.filter(({ out }) => out).map(({ key }) => key)),
        );
      }),
    );
  });
  it('moved and moved back are as they were given; words stay with their stop, also in place of a door that is not there', () => {
    const of = { role: 'harbour-desk', task: 'notices.post', stop: 'door.notices' } as const;
    const moved = after({ do: 'move-stop', ...of, by: 1 }, { do: 'move-stop', ...of, by: -1 });
    expect(getRole(moved, 'harbour-desk').tours).toEqual(getRole(demo, 'harbour-desk').tours);
    const second = after(door('notices', 'away'), { do: 'move-stop', ...of, by: 1 });
    expect(tour(second, 'notices.post')?.stops[1]?.control).toBe('frame.ask');
    const left = after(door('notices', 'away'), { do: 'leave-stop-out', ...of, out: true });
    expect(tour(left, 'notices.post')?.left.map(({ key }) => key)).toEqual(['door.notices']);
  });
  it('lead through the question box where the door is put away; both ways have words of their own', () => {
    const word = (stop: string, title: string): Operation => ({
      do: 'word-stop',
      role: 'harbour-desk',
      task: 'notices.post',
      stop,
      title,
      text: '',
    });
    const both = [word('door.notices', 'Up there'), word('frame.ask', 'Type “notice”')];
    expect(tour(after(...both), 'notices.post')?.stops[0]).toMatchObject({
      control: 'door.notices',
      title: 'Up there',
    });
    expect(tour(after(door('notices', 'away'), ...both), 'notices.post')?.stops[0]).toMatchObject({
      control: 'frame.ask',
      title: 'Type “notice”',
    });
    // A task that begins on Today has no door to ask for.
    const frame = [...inventory.tasks.values()].find(({ section }) =>
      inventory.sections.some((s) => s.id === section && s.face !== 'door'),
    );
    expect(frame).toBeDefined();
    expect(
      applyOperation(inventory, demo, { ...word('frame.ask', 'x'), task: frame?.id ?? '' } as Operation),
    ).toMatchObject({ ok: false });
  });
  it('keep a stop whose control is gone, and say why', () => {
    const p = after(
      { do: 'tick-task', role: 'harbour-desk', task: 'pages.link', ticked: true },
      ...['page', 'file', 'web', 'mail'].map((kind): Operation => ({
        do: 'set-tool',
        role: 'harbour-desk',
        tool: `link.${kind}`,
        on: false,
      })),
    );
    // The button is there while one kind of link is left, though this task takes another.
    expect(tour(p, 'pages.link')?.stops.at(-1)).toMatchObject({ control: 'pages.edit.tool.link', stale: null });
    expect(at(p).tasks.find((t) => t.task === 'pages.link')?.verdict).toEqual({
      can: false,
      missing: { kind: 'tool', id: 'link.page' },
    });
    const none = applyOperation(inventory, p, { do: 'set-tool', role: 'harbour-desk', tool: 'link.phone', on: false });
    if (!none.ok) throw new Error(none.detail);
    expect(tour(none.plan, 'pages.link')?.stops.at(-1)).toMatchObject({
      control: 'pages.edit.tool.link',
      stale: 'The toolbar lacks “Link to a page”.',
    });
  });
  it('take a minute for 160 words (common practice, no source) and six seconds for each act', () => {
    const words = (n: number) => ({ title: '', text: Array(n).fill('word').join(' '), await: 'see' as const });
    expect(tourMinutes([words(160), words(160)])).toBe(2);
    expect(tourMinutes([words(3)])).toBe(1);
    expect(tourMinutes(Array(10).fill({ ...words(80), await: 'press' }))).toBe(6);
  });
});

describe('“Where do I…?”', () => {
  const find = makeFinder(
    at(demo).tasks.map((t) => ({
      id: t.task,
      kind: 'task' as const,
      may: true,
      name: t.name,
      purpose: t.purpose,
      said: t.said,
    })),
  );
  it.each([
    ['late boat', 'notices.post'],
    ['the boat is late', 'notices.post'],
    ['typo', 'pages.words'],
    ['ticket office hours', 'pages.words'],
    ['photo', 'pages.banner'],
    ['cancled', 'notices.post'],
    ['sailing no', 'notices.post'],
    ['how do I take down a notice', 'notices.end'],
  ])('“%s” finds %s first', (asked, task) => {
    expect(find(asked)[0]?.id).toBe(task);
  });
  it('finds nothing where there is nothing', () => expect(find('submarine')).toEqual([]));
});
