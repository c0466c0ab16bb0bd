import { useMemo } from 'react';
import { onSite } from '../kit/inventory';
import { ProblemNote, Safe } from '../kit/parts';
import { usePages } from '../kit/usePages';
import { Bench, BenchCrumbs, HEADER, type PlannerProps } from './Bench';
import type { WorkshopPage } from './model';
import { STEPS } from './steps';

/** Prepares one role's room, step by step, with the room as it is now always beside it. */
export const Planner = onSite(function Planner(props: PlannerProps) {
  return (
    <Safe>
      <Ready {...props} />
    </Safe>
  );
});

/** The room is worked out from every page there is; they come after the screen. */
function Ready(props: PlannerProps) {
  const { pages, problem, again } = usePages<WorkshopPage>('plan');
  const facts = useMemo(() => pages && { ...props.facts, pages }, [props.facts, pages]);
  if (facts) return <Bench {...props} facts={facts} />;
  const role = props.initial.plan.roles.find((one) => one.id === props.facts.role)?.name ?? '';
  const step = STEPS.find((one) => one.id === props.step) ?? STEPS[0];
  return (
    <div className="flex min-h-screen flex-col">
      <header className={HEADER}>
        <BenchCrumbs role={role} />
      </header>
      <main id="main" className="grid gap-3 px-4 py-5 md:px-6 lg:pl-[208px]" aria-busy={!problem}>
        <h1 className="clip">{step.title(role)}</h1>
        {problem ? (
          <>
            <ProblemNote problem={problem} />
            <button type="button" className="btn justify-self-start" onClick={again}>
              Try again
            </button>
          </>
        ) : (
          <p role="status" className="text-ink-2">
            Working out the room…
          </p>
        )}
      </main>
    </div>
  );
}
