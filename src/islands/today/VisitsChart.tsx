import { max, scaleBand, scaleLinear } from 'd3';
import { sayWeekday } from '@/core/words';

const W = 320;
const H = 150;
const AXIS = 40;

/** Visits day by day. Every bar carries its figure and its day as text; nothing is told by colour alone. */
export function VisitsChart({
  days,
  language,
}: {
  days: { day: string; visits: number; partial: boolean }[];
  /** Of the names of days. */
  language: string;
}) {
  const x = scaleBand(
    days.map((d) => d.day),
    [0, W],
  ).padding(0.3);
  const y = scaleLinear([0, max(days, (d) => d.visits) ?? 1], [0, H - AXIS - 18]);
  return (
    <svg
      viewBox={`0 0 ${W} ${H}`}
      role="img"
      aria-label={`Visits: ${days.map((d) => `${sayWeekday(d.day, language)} ${d.visits}${d.partial ? ' so far' : ''}`).join(', ')}`}
      className="mx-auto max-h-[11.5rem] w-full"
    >
      {days.map((d) => {
        const height = y(d.visits);
        const left = x(d.day) ?? 0;
        return (
          <g key={d.day} transform={`translate(${left + x.bandwidth() / 2} 0)`}>
            <rect
              x={-x.bandwidth() / 2}
              y={H - AXIS - height}
              width={x.bandwidth()}
              height={height}
              rx="3"
              className={d.partial ? 'fill-line-2' : 'fill-pine'}
            />
            <text y={H - AXIS - height - 5} textAnchor="middle" className="fill-ink-2 text-[11px]">
              {d.visits}
            </text>
            <text y={H - AXIS + 17} textAnchor="middle" className="fill-ink text-[12px]">
              {sayWeekday(d.day, language)}
            </text>
            {d.partial && (
              <text y={H - AXIS + 32} textAnchor="middle" className="fill-ink-2 text-[11px]">
                so far
              </text>
            )}
          </g>
        );
      })}
    </svg>
  );
}
