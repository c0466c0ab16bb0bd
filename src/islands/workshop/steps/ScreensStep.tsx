import { useMemo, useState } from 'react';
import { createPortal } from 'react-dom';
import { sampleOf, type Place } from '@/core/access';
import { roleNames, ruleFor, screenRuleInWords } from '@/core/plan';
import { askerFor, editOf, makingOf, screensOf } from '@/core/room';
import { arrange, editScreens, isArrangement, type Element, type ElementSaid } from '@/core/screens';
import { sayList } from '@/core/words';
import { AboutContext } from '../../editor/about';
import { BoardEditor } from '../../kit/BoardEditor';
import { PagePicker } from '../../kit/PagePicker';
import { useFocusLater } from '../../kit/parts';
import { ElementCard } from '../screens/ElementCard';
import { ElementPanel } from '../screens/ElementPanel';
import { BarInSmall } from '../screens/InSmall';
import { ListPanel } from '../screens/ListPanel';
import { ScreenRules } from '../screens/ScreenRules';
import { ScreensBeside } from '../screens/ScreensBeside';
import { writingMap } from '../toolbar/model';
import type { StepProps } from './step';
import { ofInventory, type PermissionId } from '@/core/inventory';
import { useInventory } from '../../kit/inventory';

const formsOf = ofInventory(editScreens);
type EditScreen = ReturnType<typeof editScreens>[number];

const keyOf = ({ type, layout }: EditScreen) => `${type.id} ${layout.id}`;
const nameOf = ({ layout }: EditScreen) => layout.name;

/** The edit screens themselves, smaller: what is on them, in which order, in whose words, and what can be changed. */
export function ScreensStep({ facts, plan, prepared, change, best, slot, readOnly, setWarning }: StepProps) {
  const inventory = useInventory();
  const { role, person, atMs } = prepared;
  const forms = formsOf(inventory).filter(({ type }) => best(editOf(type.id)).allowed);
  const offered = forms.length > 0 ? forms : formsOf(inventory);
  const [key, setKey] = useState(() => (offered[0] ? keyOf(offered[0]) : ''));
  const [isEvery, setEvery] = useState(true);
  const [branch, setBranch] = useState('');
  const [chosen, setChosen] = useState<string | null>(null);
  const focusLater = useFocusLater();
  const form = formsOf(inventory).find((one) => keyOf(one) === key) ?? formsOf(inventory)[0];
  if (!form) throw new Error('there is nothing to edit');
  const { type, layout, elements } = form;
  const names = useMemo(
    () => ({
      role: roleNames(plan),
      page: (id: string) => facts.pages.find((page) => page.id === id)?.title ?? 'a page that is gone',
    }),
    [plan, facts.pages],
  );
  const where = { ...(branch && { branch }), ...(isEvery ? {} : { layouts: [layout.id] }) };
  const spot: Place = useMemo(() => {
    const page = facts.pages.find(({ id }) => id === branch) ?? facts.pages[0];
    return {
      path: page?.place.path ?? [],
      layout: type.id === 'page' ? layout.id : (page?.place.layout ?? layout.id),
      state: 'draft',
      author: person.id,
    };
  }, [facts.pages, branch, layout.id, type.id, person.id]);
  const now = useMemo(() => screensOf(inventory, plan, person, atMs), [inventory, plan, person, atMs]);
  const before = useMemo(() => screensOf(inventory, facts.live, person, atMs), [inventory, facts.live, person, atMs]);
  const stateOf = (id: string) => now.of(type.id, spot, id);
  const writing = useMemo(
    () => writingMap(inventory, facts, plan, person, branch),
    [inventory, facts, plan, person, branch],
  );
  const toolsOf = (one: Element) => (one.field && writing.cell(layout.id, one.field.id).answer?.tools) ?? null;
  const asker = useMemo(
    () => askerFor({ inventory, plan, person, places: facts.pages.map(({ place }) => place), nowMs: atMs }),
    [inventory, plan, person, facts.pages, atMs],
  );
  /** On the part of the website that is looked at; with none chosen wherever they may most. */
  const mayHere = (need: PermissionId) => (branch === '' ? best(need).allowed : asker.may(need, spot));
  const finishing = ['send', 'publish'].flatMap((part) => {
    const control = inventory.controls.get(`${type.screen}.${part}`);
    return control && [control.needs ?? []].flat().every(mayHere) ? [control.id] : [];
  });
  const standing = elements.filter(({ panel }) => panel === undefined);
  const idsIn = (column: Element['column']) => standing.filter((one) => one.column === column).map(({ id }) => id);
  const order = arrange(now.arranged(type.id, spot), { main: idsIn('main'), side: idsIn('side') });
  const element = elements.find(({ id }) => id === chosen) ?? null;
  const rule = element && ruleFor(plan.screens, role.id, where, element.id);
  const said = rule && !isArrangement(rule.then) ? rule.then : {};
  const count = (screens: typeof now) =>
    elements.filter(({ id }) => screens.of(type.id, spot, id).show !== 'hidden').length;
  /** Elements that no role but the keyholder's, of those that write here, still has on this screen. */
  const unseen = useMemo(() => {
    const hides = (screens: typeof now, id: string) => screens.of(type.id, spot, id).show === 'hidden';
    const hidden = elements.filter(({ id }) => hides(now, id));
    if (hidden.length === 0) return [];
    const places = facts.pages.map((page) => page.place);
    const writing = plan.roles
      .filter(({ id, archived }) => id !== 'keyholder' && !archived)
      .map(({ id }) => sampleOf(id))
      .filter(
        (one) => askerFor({ inventory, plan, person: one, places, nowMs: facts.nowMs }).best(editOf(type.id)).allowed,
      )
      .map((one) => screensOf(inventory, plan, one, facts.nowMs));
    return hidden.filter(({ id }) => writing.every((one) => hides(one, id))).map(({ name }) => `“${name}”`);
  }, [inventory, plan, elements, spot, type.id, facts.pages, facts.nowMs, now]);
  const placeWords = [
    isEvery ? (type.id === 'page' ? 'on every layout' : `for every ${type.one}`) : `on “${layout.name}” only`,
    branch && `under ${names.page(branch)}`,
  ]
    .filter(Boolean)
    .join(' ');
  const say = (id: string, next: ElementSaid) => {
    const held = elements.find((one) => one.id === id);
    const lost = held && (next.show === 'hidden' || next.lock !== undefined) ? held.name : null;
    setWarning(
      lost && Object.keys(next).length > 0 && said.show !== next.show && next.show === 'hidden'
        ? `“${lost}” is kept as it is on every page; only this role no longer sees or changes it.`
        : null,
    );
    change({
      do: 'set-element',
      role: role.id,
      element: id,
      place: where,
      said: Object.keys(next).length ? next : null,
    });
  };
  const open = (id: string) => {
    setChosen(id);
    focusLater('element-panel');
  };
  const isArranged = ruleFor(plan.screens, role.id, where) !== undefined;
  const theirs = plan.screens.filter(({ when }) => !when.roles || when.roles.includes(role.id));
  return (
    <div className="grid gap-4">
      {slot &&
        element &&
        createPortal(
          <ElementPanel
            key={`${element.id} ${JSON.stringify(where)}`}
            element={element}
            place={placeWords}
            state={stateOf(element.id)}
            said={said}
            why={[...new Set(Object.values(stateOf(element.id).because))].flatMap((id) => {
              const by = plan.screens.find((one) => one.id === id);
              return by ? [screenRuleInWords(inventory, by, names)] : [];
            })}
            makesNone={!best(makingOf(type.id)).allowed}
            readOnly={readOnly}
            onSay={(next) => say(element.id, next)}
          />,
          slot,
        )}
      <div className="flex flex-wrap items-end gap-x-5 gap-y-3">
        <div role="group" aria-label="Which screen" className="flex flex-wrap gap-1.5">
          {offered.map((one) => (
            <button
              key={keyOf(one)}
              type="button"
              className={`btn btn-small ${keyOf(one) === key ? 'btn-main' : ''}`}
              aria-pressed={keyOf(one) === key}
              onClick={() => setKey(keyOf(one))}
            >
              {nameOf(one)}
            </button>
          ))}
        </div>
        {type.id === 'page' && (
          <label>
            <span className="label">What I change holds</span>
            <select
              className="field w-auto"
              value={isEvery ? 'every' : 'one'}
              onChange={(event) => setEvery(event.target.value === 'every')}
            >
              <option value="every">on every layout</option>
              <option value="one">on “{layout.name}” only</option>
            </select>
          </label>
        )}
        <div className="w-56">
          <PagePicker label="Where" pages={facts.pages} value={branch} whole="Whole website" onChange={setBranch} />
        </div>
      </div>
      <section
        aria-label="The edit screen, smaller"
        className="grid gap-2.5 overflow-hidden rounded-[10px] border-2 border-ink bg-paper pt-2.5"
      >
        <div className="px-2.5">
          <BoardEditor
            columns={2}
            names={['The text', 'Beside it']}
            widths="minmax(0,1.4fr) minmax(0,1fr)"
            chosen={chosen}
            cards={[...order.main.map((id) => ({ id, column: 0 })), ...order.side.map((id) => ({ id, column: 1 }))].map(
              ({ id, column }) => ({
                id,
                name: elements.find((one) => one.id === id)?.name ?? id,
                column,
                locked: readOnly,
                faint: stateOf(id).show === 'hidden',
              }),
            )}
            draw={(id) => {
              const one = elements.find((each) => each.id === id);
              return (
                one && (
                  <ElementCard
                    element={one}
                    inside={elements.filter(({ panel }) => panel === id)}
                    stateOf={stateOf}
                    toolsOf={toolsOf}
                    chosen={chosen}
                    onOpen={open}
                  />
                )
              );
            }}
            onMove={(id, to) => {
              const without = (list: readonly string[]) => list.filter((one) => one !== id);
              const next = { main: without(order.main), side: without(order.side) };
              next[to.column === 0 ? 'main' : 'side'].splice(to.index, 0, id);
              change({ do: 'arrange-screen', role: role.id, place: where, arrangement: next });
            }}
          />
        </div>
        <AboutContext value={type}>
          <BarInSmall controls={finishing} readOnly={!mayHere(editOf(type.id))} />
        </AboutContext>
      </section>
      <p className="flex flex-wrap items-center gap-x-4 gap-y-1 text-sm text-ink-2">
        <span>
          “What visitors see” and the bar below are always there. <strong>{count(now)}</strong> things can be seen here
          {count(now) !== count(before) && `; in force are ${count(before)}`}.
        </span>
        {isArranged && !readOnly && (
          <button
            type="button"
            className="btn btn-small"
            onClick={() => change({ do: 'arrange-screen', role: role.id, place: where, arrangement: null })}
          >
            Its own order again
          </button>
        )}
      </p>
      {unseen.length > 0 && (
        <p className="note clip" role="status">
          Nobody but keyholders sees {sayList(unseen)} on this screen any more.
        </p>
      )}
      <ScreensBeside
        elements={elements}
        screens={(
          [
            ['In force', before],
            ['As prepared', now],
          ] as const
        ).map(([title, of]) => ({
          title,
          order: arrange(of.arranged(type.id, spot), { main: idsIn('main'), side: idsIn('side') }),
          stateOf: (id) => of.of(type.id, spot, id),
        }))}
      />
      <ScreenRules
        rules={theirs.map((one) => ({ id: one.id, words: screenRuleInWords(inventory, one, names) }))}
        onRemove={readOnly ? null : (rule) => change({ do: 'remove-screen-rule', role: role.id, rule })}
      />
      <ListPanel
        list={role.pageList ?? { filters: [] }}
        readOnly={readOnly}
        onChange={(list) => change({ do: 'set-page-list', role: role.id, list })}
      />
    </div>
  );
}
