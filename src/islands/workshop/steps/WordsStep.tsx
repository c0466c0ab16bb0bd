import { useState } from 'react';
import { plainText } from '@/core/content';
import { wordsPlace, wordsPlaces } from '@/core/plan';
import { Labelled } from '../../kit/parts';
import { doorNameOf } from '../model';
import { ShortText } from '../ShortText';
import type { StepProps } from './step';
import { ofInventory } from '@/core/inventory';
import { useInventory } from '../../kit/inventory';

const placesOf = ofInventory(wordsPlaces);
const capital = (text: string) => text.slice(0, 1).toUpperCase() + text.slice(1);

/** The office's own words where somebody needs them: on Today, behind doors, on edit screens. */
export function WordsStep({ plan, prepared, change, readOnly }: StepProps) {
  const inventory = useInventory();
  const { role } = prepared;
  const [at, setAt] = useState('today');
  const [forAll, setForAll] = useState(false);
  const find = (place: string, all: boolean) =>
    plan.words.find((one) => one.at === place && one.role === (all ? undefined : role.id))?.text;
  const said = find(at, forAll);
  const theirs = plan.words.filter((one) => one.role === undefined || one.role === role.id);
  const set = (text: NonNullable<typeof said> | null) =>
    change(forAll ? { do: 'set-words-for-all', at, text } : { do: 'set-words', role: role.id, at, text });
  return (
    <div className="grid gap-5">
      <div className="grid gap-4 sm:grid-cols-2">
        <Labelled label="Where">
          {(ids) => (
            <select {...ids} className="field" value={at} onChange={(event) => setAt(event.target.value)}>
              {placesOf(inventory).map((place) => (
                <option key={place} value={place}>
                  {capital(wordsPlace(inventory, place, doorNameOf(inventory, role)))}
                  {(find(place, false) ?? find(place, true)) ? ' ✓' : ''}
                </option>
              ))}
            </select>
          )}
        </Labelled>
        <Labelled label="To whom">
          {(ids) => (
            <select
              {...ids}
              className="field"
              value={forAll ? 'all' : 'role'}
              onChange={(event) => setForAll(event.target.value === 'all')}
            >
              <option value="role">to “{role.name}”</option>
              <option value="all">to everybody</option>
            </select>
          )}
        </Labelled>
      </div>
      <ShortText
        key={`${at} ${forAll}`}
        id={`words ${at} ${forAll ? '' : role.id}`}
        text={said}
        readOnly={readOnly}
        onCommit={set}
      />
      {!readOnly && (
        <div className="flex flex-wrap items-center gap-x-4 gap-y-2">
          <p className="hint">What you write is set when you leave it.</p>
          {said && (
            <button type="button" className="btn btn-small" onClick={() => set(null)}>
              Say nothing there
            </button>
          )}
        </div>
      )}
      <section aria-label="What is said">
        <h2 className="mb-1.5 text-base">What is said</h2>
        {theirs.length === 0 ? (
          <p className="text-ink-2">Nothing yet.</p>
        ) : (
          <ul className="divide-y divide-line rounded-[10px] border border-line bg-sheet">
            {theirs.map((one) => (
              <li key={`${one.at} ${one.role ?? ''}`} className="px-3 py-2">
                <button
                  type="button"
                  className="link text-left"
                  onClick={() => {
                    setAt(one.at);
                    setForAll(one.role === undefined);
                  }}
                >
                  {capital(wordsPlace(inventory, one.at, doorNameOf(inventory, role)))}
                  {one.role === undefined && ', to everybody'}
                </button>
                <p className="clip line-clamp-2 text-sm text-ink-2">{plainText(one.text)}</p>
              </li>
            ))}
          </ul>
        )}
      </section>
    </div>
  );
}
