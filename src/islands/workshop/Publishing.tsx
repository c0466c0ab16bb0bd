import { CHECKS } from '@/core/content';
import { publishingOf, type CheckRule } from '@/core/plan';
import type { PlanState } from '@/core/wire';
import { onSite } from '../kit/inventory';
import { Icon } from '../kit/Icon';
import { ProblemNote, Safe } from '../kit/parts';
import { usePlan } from './usePlan';

const RULES: [CheckRule, string][] = [
  ['block', 'Stops it'],
  ['advise', 'Advises'],
  ['off', 'Off'],
];

/**
 * How strict the website is before something goes out: part of the plan, so it goes live and back like everything else.
 */
export const Publishing = onSite(function Publishing(props: { initial: PlanState; mayEdit: boolean }) {
  return (
    <Safe>
      <Rules {...props} />
    </Safe>
  );
});

function Rules({ initial, mayEdit }: { initial: PlanState; mayEdit: boolean }) {
  const { state, problem, change, undo } = usePlan(initial, null);
  const rules = publishingOf(state.plan);
  const isOwn = state.undo !== null;
  return (
    <div className="grid gap-5">
      <div className="sticky top-[68px] z-20">
        <ProblemNote problem={problem} />
      </div>
      <section aria-label="What is looked for" data-anchor="workshop.publishing.checks">
        <ul className="card divide-y divide-line p-0">
          {CHECKS.map((check) => (
            <li key={check.id} className="px-4 py-3">
              <fieldset className="flex flex-wrap items-center gap-x-6 gap-y-2" disabled={!mayEdit}>
                <legend className="float-left min-w-[16rem] flex-1">
                  <span className="font-semibold">{check.name}</span>
                  <span className="block text-sm text-ink-2">{check.description}</span>
                </legend>
                <div className="flex flex-wrap gap-4">
                  {RULES.map(([rule, words]) => (
                    <label key={rule} className="flex min-h-[28px] items-center gap-2">
                      <input
                        type="radio"
                        name={check.id}
                        className="h-4 w-4"
                        checked={rules.checks[check.id] === rule}
                        onChange={() =>
                          change({
                            do: 'set-publishing',
                            publishing: { ...rules, checks: { ...rules.checks, [check.id]: rule } },
                          })
                        }
                      />{' '}
                      {words}
                    </label>
                  ))}
                </div>
              </fieldset>
            </li>
          ))}
        </ul>
      </section>
      <label className="card flex items-center gap-3" data-anchor="workshop.publishing.note">
        <input
          type="checkbox"
          className="h-5 w-5"
          disabled={!mayEdit}
          checked={rules.noteRequired}
          onChange={(event) =>
            change({ do: 'set-publishing', publishing: { ...rules, noteRequired: event.target.checked } })
          }
        />
        <span>
          <span className="font-semibold">A change note is asked for</span>
          <span className="block text-sm text-ink-2">
            Nobody can send or publish without saying in a sentence what they changed.
          </span>
        </span>
      </label>
      {mayEdit && (
        <div className="flex flex-wrap items-center gap-3">
          <button type="button" className="btn" disabled={!isOwn} onClick={() => undo()}>
            <Icon name="undo" size={16} /> Undo{isOwn && `: ${state.undo?.words.toLowerCase()}`}
          </button>
          <a className="btn btn-main" href="/workshop/release">
            Review and go live
          </a>
          <p className="text-sm text-ink-2">It counts for everybody once it goes live.</p>
        </div>
      )}
    </div>
  );
}
