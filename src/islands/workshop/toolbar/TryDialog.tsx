import { TZDate } from '@date-fns/tz';
import { useMemo, useState } from 'react';
import { sampleOf, type PolicyPerson } from '@/core/access';
import type { BlockNode, Document } from '@/core/content';
import type { Plan } from '@/core/plan';
import { writingOf } from '@/core/room';
import { later } from '../../kit/later';
import { PagePicker } from '../../kit/PagePicker';
import { Dialog, Labelled } from '../../kit/parts';
import { WritingSkeleton } from '../../editor/WritingSkeleton';
import type { WorkshopFacts } from '../model';
import { gridForms, textName } from './model';
import { WhenField } from '../../kit/when/WhenField';
import { ofInventory } from '@/core/inventory';
import { useInventory } from '../../kit/inventory';

const WritingArea = later(() => import('../../editor/WritingArea'), <WritingSkeleton />);

const cell = (type: 'tableHeader' | 'tableCell', text: string): BlockNode => ({
  type,
  attrs: { colspan: 1, rowspan: 1, colwidth: null },
  content: [{ type: 'paragraph', content: [{ type: 'text', text }] }],
});
/** Some of everything, to be typed in. */
const SAMPLE: Document = {
  type: 'doc',
  content: [
    { type: 'heading', attrs: { level: 2 }, content: [{ type: 'text', text: 'A heading' }] },
    {
      type: 'paragraph',
      content: [
        { type: 'text', text: 'Some words, ' },
        { type: 'text', text: 'bold ones', marks: [{ type: 'bold' }] },
        { type: 'text', text: ' among them. Write here as they would.' },
      ],
    },
    {
      type: 'bulletList',
      content: [
        { type: 'listItem', content: [{ type: 'paragraph', content: [{ type: 'text', text: 'An entry of a list' }] }] },
      ],
    },
    {
      type: 'table',
      content: [
        { type: 'tableRow', content: [cell('tableHeader', 'What'), cell('tableHeader', 'When')] },
        { type: 'tableRow', content: [cell('tableCell', 'A table'), cell('tableCell', 'that may have to stay')] },
      ],
    },
  ],
};

/** The start of a day on the site's clock, in ms. */
function startOf(day: string, timeZone: string): number {
  const [year = 0, month = 1, date = 1] = day.split('-').map(Number);
  return new TZDate(year, month - 1, date, timeZone).getTime();
}

/** The kinds of things with a text, pages first. */
const kindsOf = ofInventory((inventory) => [...new Set(['page', ...gridForms(inventory).map(({ type }) => type)])]);

/**
 * A person, a page or what lies on it, a text and a day: the writing area they would have there, as prepared and as it is in force, to be
 * typed in. Nothing of it is kept.
 */
export function TryDialog({
  facts,
  plan,
  person: first,
  start,
  onClose,
}: {
  facts: WorkshopFacts;
  plan: Plan;
  person: PolicyPerson;
  start: { kind: string; page: string; field: string };
  onClose: () => void;
}) {
  const inventory = useInventory();
  const alone = sampleOf(facts.role);
  const people = [alone, ...facts.people];
  const [who, setWho] = useState(first.id);
  const [kind, setKind] = useState(start.kind);
  const [page, setPage] = useState(start.page);
  const [field, setField] = useState(start.field);
  const [day, setDay] = useState('');
  const person = people.find(({ id }) => id === who) ?? alone;
  const place = facts.pages.find(({ id }) => id === page)?.place;
  const form = gridForms(inventory).find(
    ({ type, layout }) => type === kind && (type !== 'page' || layout.id === place?.layout),
  );
  const texts = form?.texts ?? [];
  const text = texts.find(({ id }) => id === field) ?? texts[0];
  const atMs = day === '' ? facts.nowMs : startOf(day, inventory.timeZone);
  const areas = useMemo(
    () =>
      [
        ['As prepared', plan],
        ['In force', facts.live],
      ] as const,
    [plan, facts.live],
  );
  return (
    <Dialog open onClose={onClose} wide title="Try a case">
      <div className="mb-4 grid gap-3 sm:grid-cols-2">
        <label>
          <span className="label">Who</span>
          <select className="field" value={who} onChange={(event) => setWho(event.target.value)}>
            {people.map(({ id, name, suspended }) => (
              <option key={id} value={id}>
                {id === '0' ? 'Somebody with this role alone' : suspended ? `${name} (paused)` : name}
              </option>
            ))}
          </select>
        </label>
        <label>
          <span className="label">What they write</span>
          <select className="field" value={kind} onChange={(event) => setKind(event.target.value)}>
            {kindsOf(inventory).map((id) => (
              <option key={id} value={id}>
                a {inventory.items.get(id)?.one ?? id}
              </option>
            ))}
          </select>
        </label>
        <PagePicker label="On which page" pages={facts.pages} value={page} onChange={setPage} />
        <label>
          <span className="label">In which text</span>
          <select className="field" value={text?.id ?? ''} onChange={(event) => setField(event.target.value)}>
            {texts.map(({ id }) => (
              <option key={id} value={id}>
                {textName(inventory, form?.layout.id, id)}
              </option>
            ))}
          </select>
        </label>
        <Labelled label="On which day (now, if empty)">
          {(ids) => <WhenField {...ids} kind="day" value={day} onChange={setDay} />}
        </Labelled>
      </div>
      {place && text ? (
        areas.map(([name, of]) => {
          const tools = writingOf(inventory, of, person, atMs).of(kind, place, text.id);
          return (
            <section key={name} aria-label={name} className="mb-4">
              <h3 className="label">
                {name}
                {tools.tools.length === 0 && ': no tools, plain words only'}
              </h3>
              <WritingArea
                key={`${name} ${who} ${kind} ${page} ${text.id} ${tools.tools.join(' ')} ${JSON.stringify(tools.keep)}`}
                label={`${name}: ${text.name}`}
                loaded={SAMPLE}
                onReady={() => () => undefined}
                with={tools}
                allTools={[...inventory.tools.values()]}
                readOnly={false}
                pictures={[]}
                small
                previewHref={null}
                onChange={() => undefined}
                onPreview={() => Promise.resolve()}
              />
            </section>
          );
        })
      ) : (
        <p className="note">Choose a page that has a text.</p>
      )}
      <p className="hint">Nothing you write here is kept.</p>
    </Dialog>
  );
}
