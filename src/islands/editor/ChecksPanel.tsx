import type { JudgedFinding } from '@/core/wire';
import { Icon } from '../kit/Icon';
import { useAbout } from './about';
import { goToField } from './goToField';
import { Panel } from './Panel';

/** What may be wrong with the page, in plain words; what stops publishing comes first. */
export function ChecksPanel({ findings }: { findings: JudgedFinding[] | null }) {
  const { anchor } = useAbout();
  const list = [...(findings ?? [])].sort((a, b) => Number(b.rule === 'block') - Number(a.rule === 'block'));
  const stops = list.filter((finding) => finding.rule === 'block').length;
  const value =
    findings === null
      ? 'Looking…'
      : list.length === 0
        ? 'Nothing to set right'
        : stops > 0
          ? `${stops} to set right first`
          : list.length === 1
            ? '1 thing to look at'
            : `${list.length} things to look at`;
  return (
    <Panel
      name="Before it goes out"
      value={<span className={stops > 0 ? 'font-semibold text-brick' : ''}>{value}</span>}
      anchor={anchor('checks')}
    >
      {findings !== null && list.length === 0 && (
        <p className="flex items-center gap-2">
          <Icon name="check" size={16} /> Nothing to set right.
        </p>
      )}
      <ul className="grid gap-2">
        {list.map((finding) => (
          <li key={finding.message} className={`note clip ${finding.rule === 'block' ? 'note-brick' : ''}`}>
            <strong>{finding.rule === 'block' ? 'Must be set right. ' : 'Look at this. '}</strong>
            {finding.message}{' '}
            <button type="button" className="link underline" onClick={() => goToField(finding.field)}>
              Go there<span className="sr-only">: {finding.message}</span>
            </button>
          </li>
        ))}
      </ul>
    </Panel>
  );
}
