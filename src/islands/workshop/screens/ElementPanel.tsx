import { kindOfField, type Field } from '@/core/content';
import { elementOptions, SHOWS, type Element, type ElementSaid, type ElementState, type Show } from '@/core/screens';
import { CommitInput } from '../../kit/CommitInput';
import { CommitNumber } from '../../kit/CommitNumber';
import { Labelled } from '../../kit/parts';
import { useInventory } from '../../kit/inventory';

const SHOW_NAMES: Record<Show, string> = { shown: 'Open', closed: 'Closed at first', hidden: 'Hidden' };

/** An input for what something new begins with; none for kinds that have no short value. */
function ValueInput({
  field,
  value,
  onCommit,
}: {
  field: Field;
  value: ElementSaid['value'];
  onCommit: (value: ElementSaid['value']) => void;
}) {
  const label = 'Something new begins with';
  const begins = kindOfField(field).begins?.(field);
  // What is asked for when it is made, and what is chosen otherwise.
  if (!begins || field.id === 'page.layout' || field.id === 'page.slug' || field.id === 'title') return null;
  if (begins.as === 'number')
    return (
      <CommitNumber
        label={label}
        min={begins.min}
        max={begins.max}
        value={typeof value === 'number' ? value : undefined}
        onCommit={onCommit}
      />
    );
  return (
    <Labelled label={label}>
      {(ids) =>
        begins.as === 'words' ? (
          <CommitInput
            {...ids}
            className="field"
            maxLength={begins.max}
            value={String(value ?? '')}
            onCommit={(words) => onCommit(words || undefined)}
          />
        ) : (
          <select
            {...ids}
            className="field"
            value={String(value ?? '')}
            onChange={({ target }) => onCommit(begins.options.find(({ id }) => id === target.value)?.value)}
          >
            <option value="">as usual</option>
            {begins.options.map(({ id, name }) => (
              <option key={id} value={id}>
                {name}
              </option>
            ))}
          </select>
        )
      }
    </Labelled>
  );
}

/** What is said of one element of an edit screen, in the place that was chosen. */
export function ElementPanel({
  element,
  place,
  state,
  said,
  why,
  makesNone,
  readOnly,
  onSay,
}: {
  element: Element;
  /** Where what is set here holds, in words. */
  place: string;
  /** As it is there by all that is said. */
  state: ElementState;
  /** Whether nobody with this role makes a new one. */
  makesNone: boolean;
  /** What is said for just this place. */
  said: ElementSaid;
  /** Which other rules have a say in it, in words. */
  why: string[];
  readOnly: boolean;
  onSay: (said: ElementSaid) => void;
}) {
  const inventory = useInventory();
  const with_ = (part: Partial<Record<keyof ElementSaid, unknown>>): ElementSaid =>
    Object.fromEntries(Object.entries({ ...said, ...part }).filter(([, one]) => one !== undefined));
  const isNote = element.id.endsWith('.note');
  const canBeAsked = element.kind === 'field' || isNote;
  const options = elementOptions(inventory, element.field);
  const chosen = said.choices ?? [];
  const shows = SHOWS.filter((show) => !(element.needed && show === 'hidden'));
  return (
    <section aria-label={`On the screen: ${element.name}`} className="grid gap-3">
      <div>
        <h2 id="element-panel" className="clip">
          {element.name}
        </h2>
        <p className="text-sm text-ink-2">{element.hint}</p>
        <p className="mt-1 text-sm">
          What is set here holds <strong>{place}</strong>.
        </p>
      </div>
      <fieldset disabled={readOnly}>
        <legend className="label">On this screen</legend>
        <div className="grid gap-1">
          {([undefined, ...shows] as const).map((show) => (
            <label key={show ?? 'itself'} className="flex min-h-[28px] items-center gap-2">
              <input
                type="radio"
                name="show"
                className="h-4 w-4 accent-pine"
                checked={said.show === show}
                onChange={() => onSay(with_({ show }))}
              />
              {show === undefined ? (
                <span>
                  As it is otherwise
                  {state.show !== undefined && said.show === undefined && (
                    <span className="text-sm text-ink-2"> ({SHOW_NAMES[state.show].toLowerCase()})</span>
                  )}
                </span>
              ) : (
                SHOW_NAMES[show]
              )}
            </label>
          ))}
        </div>
        {element.needed && (
          <p className="hint">It has to be filled in, so it cannot be hidden{element.lockable ? '.' : ' or locked.'}</p>
        )}
      </fieldset>
      {canBeAsked && !element.needed && (
        <label className="flex min-h-[28px] items-center gap-2">
          <input
            type="checkbox"
            className="h-5 w-5 accent-pine"
            disabled={readOnly}
            checked={said.required ?? false}
            onChange={(event) => onSay(with_({ required: event.target.checked ? true : undefined }))}
          />
          Must be filled in before it is sent or published
        </label>
      )}
      {options.length > 0 && (
        <fieldset disabled={readOnly}>
          <legend className="label">Offers only</legend>
          <div className="grid gap-1">
            {options.map(({ id, name }) => (
              <label key={id} className="flex min-h-[28px] items-center gap-2">
                <input
                  type="checkbox"
                  className="h-4 w-4 accent-pine"
                  checked={chosen.includes(id)}
                  onChange={(event) => {
                    const next = options
                      .map((one) => one.id)
                      .filter((one) => (one === id ? event.target.checked : chosen.includes(one)));
                    onSay(with_({ choices: next.length > 0 ? next : undefined }));
                  }}
                />
                {name}
              </label>
            ))}
          </div>
          <p className="hint">
            {chosen.length === 0 ? 'Nothing ticked: everything is offered.' : 'What is there stays, whatever it is.'}
          </p>
        </fieldset>
      )}
      <fieldset disabled={readOnly} className="grid gap-3">
        <Labelled label="Their name for it">
          {(ids) => (
            <CommitInput
              {...ids}
              className="field"
              maxLength={80}
              placeholder={element.name}
              value={said.label ?? ''}
              onCommit={(label) => onSay(with_({ label: label || undefined }))}
            />
          )}
        </Labelled>
        <Labelled label="Hint with it">
          {(ids) => (
            <CommitInput
              {...ids}
              className="field"
              kind={{ rows: 2 }}
              maxLength={300}
              value={said.hint ?? ''}
              onCommit={(hint) => onSay(with_({ hint: hint || undefined }))}
            />
          )}
        </Labelled>
        {element.lockable && !isNote && (
          <Labelled label="Locked, because" hint="A reason locks it. They read it where they would have changed it.">
            {(ids) => (
              <CommitInput
                {...ids}
                className="field"
                maxLength={200}
                value={said.lock ?? ''}
                onCommit={(lock) => onSay(with_({ lock: lock || undefined }))}
              />
            )}
          </Labelled>
        )}
        {element.field && (
          <div>
            <ValueInput field={element.field} value={said.value} onCommit={(value) => onSay(with_({ value }))} />
            {makesNone && said.value !== undefined && (
              <p className="note mt-1">
                They make nothing new of this kind themselves, so it changes nothing for them.
              </p>
            )}
          </div>
        )}
        {!readOnly && (
          <div className="flex flex-wrap items-center gap-x-4 gap-y-2">
            <p className="hint">What you type is set when you leave the field.</p>
            {Object.keys(said).length > 0 && (
              <button type="button" className="btn btn-small" onClick={() => onSay({})}>
                As it is by itself
              </button>
            )}
          </div>
        )}
      </fieldset>
      {why.length > 0 && (
        <div className="text-sm">
          <p className="label">Why it is so</p>
          <ul className="list-disc pl-5">
            {why.map((one) => (
              <li key={one} className="clip">
                {one}
              </li>
            ))}
          </ul>
        </div>
      )}
    </section>
  );
}
