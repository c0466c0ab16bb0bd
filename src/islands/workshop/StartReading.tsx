import type { Preference, StartPreferences } from '@/core/own';
import { preferenceName, startPreferences } from '@/core/plan';
import type { PlanState } from '@/core/wire';
import { READING } from '../frame/reading';
import { onSite } from '../kit/inventory';
import { Icon } from '../kit/Icon';
import { Labelled, ProblemNote, Safe } from '../kit/parts';
import { usePlan } from './usePlan';

/** How everybody begins to read the back office, and what of it they can choose themselves. */
export const StartReading = onSite(function StartReading(props: { initial: PlanState; mayEdit: boolean }) {
  return (
    <Safe>
      <Values {...props} />
    </Safe>
  );
});

function Values({ initial, mayEdit }: { initial: PlanState; mayEdit: boolean }) {
  const { state, problem, change, undo } = usePlan(initial, null);
  const value = startPreferences(state.plan);
  const set = (reading: StartPreferences) => change({ do: 'set-reading', reading });
  return (
    <div className="grid max-w-3xl gap-4">
      <div className="sticky top-[68px] z-20">
        <ProblemNote problem={problem} />
      </div>
      <ul className="card divide-y divide-line p-0" data-anchor="workshop.reading.start">
        {(Object.keys(READING) as Preference[]).map((id) => (
          <li key={id} className="grid items-end gap-4 px-4 py-3 sm:grid-cols-2">
            <Labelled label={preferenceName(id)}>
              {(ids) => (
                <select
                  {...ids}
                  className="field"
                  disabled={!mayEdit}
                  value={String(value.start[id] ?? '')}
                  onChange={(event) => {
                    const chosen = READING[id].find(([one]) => String(one) === event.target.value)?.[0];
                    const { [id]: _, ...rest } = value.start;
                    set({ ...value, start: chosen === undefined ? rest : { ...rest, [id]: chosen } });
                  }}
                >
                  <option value="">As usual: {READING[id][0]?.[1]}</option>
                  {READING[id].map(([one, name]) => (
                    <option key={String(one)} value={String(one)}>
                      {name}
                    </option>
                  ))}
                </select>
              )}
            </Labelled>
            <label className="flex min-h-[36px] items-center gap-2">
              <input
                type="checkbox"
                className="h-5 w-5 accent-pine"
                disabled={!mayEdit}
                checked={!value.fixed.includes(id)}
                onChange={(event) =>
                  set({
                    ...value,
                    fixed: event.target.checked ? value.fixed.filter((one) => one !== id) : [...value.fixed, id],
                  })
                }
              />
              Everybody can choose their own
              <span className="sr-only">: {preferenceName(id)}</span>
            </label>
          </li>
        ))}
      </ul>
      <div className="flex flex-wrap items-center gap-4">
        <button type="button" className="btn" disabled={!mayEdit || state.undo === null} onClick={() => undo()}>
          <Icon name="undo" /> Undo
        </button>
        <p className="text-sm text-ink-2">It is prepared with the rooms, and in force when they go live.</p>
      </div>
    </div>
  );
}
