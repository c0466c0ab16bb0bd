import { Icon, type IconName } from '../kit/Icon';

const OUTCOME = {
  new: ['pill-pine', 'plus', 'new'],
  more: ['pill-sky', 'plus', 'further role'],
  done: ['pill-pine', 'check', 'changes'],
  same: ['pill-plain', 'check', 'as it is'],
  fault: ['pill-brick', 'warn', 'left out'],
} as const satisfies Record<string, readonly [string, IconName, string]>;
export type Outcome = keyof typeof OUTCOME;

/** What would happen or happened to each of several people. */
export function OutcomeTable({
  label,
  head,
  rows,
  fault = 'left out',
}: {
  label: string;
  head: readonly string[];
  rows: readonly { key: string; line?: number; who: string; detail?: string; outcome: Outcome; says: string }[];
  /** What a fault is called here. */ fault?: string;
}) {
  return (
    <div
      className="relative max-h-[50vh] overflow-auto rounded-s border border-line"
      tabIndex={0}
      role="region"
      aria-label={label}
    >
      <table className="w-full border-collapse text-left text-sm">
        <thead className="sticky top-0 bg-sheet">
          <tr className="border-b border-line-2">
            {head.map((name) => (
              <th key={name} scope="col" className="px-3 py-1.5">
                {name || <span className="sr-only">Outcome</span>}
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {rows.map((row) => {
            const [look, icon, word] = OUTCOME[row.outcome];
            return (
              <tr key={row.key} className="border-b border-line align-top">
                {row.line !== undefined && <td className="px-3 py-1.5">{row.line}</td>}
                <td className="clip w-2/5 min-w-[14rem] px-3 py-1.5">
                  <strong>{row.who}</strong> {row.detail && <span className="block text-ink-2">{row.detail}</span>}
                </td>
                <td className="px-3 py-1.5 whitespace-nowrap">
                  <span className={`pill ${look}`}>
                    <Icon name={icon} size={13} /> {row.outcome === 'fault' ? fault : word}
                  </span>
                </td>
                <td className="clip w-3/5 px-3 py-1.5">{row.says}</td>
              </tr>
            );
          })}
        </tbody>
      </table>
    </div>
  );
}
