import { groupTools } from '@/core/inventory';
import { inventory } from '@/office';
import { Icon, isIcon, type IconName } from '../../kit/Icon';
import { CARE } from '../model';
import type { StepProps } from '../Planner';

const ICON: Record<string, IconName> = { bullets: 'list' };
const isLink = (id: string) => id.startsWith('link.');
/** Tools of one family share a picture: `link.web`, `link.mail`. */
function toolIcon(id: string): IconName {
  const [family = id] = id.split('.');
  return ICON[id] ?? (isIcon(family) ? family : 'file');
}

/** Which formatting tools and writing modes the role has. */
export function ToolbarStep({ prepared, change, readOnly }: StepProps) {
  const { role, now } = prepared;
  const groups = groupTools([...inventory.tools.values()]);
  const theirs = groups.flatMap((group) => group.tools.filter((tool) => now.toolbar.tools.includes(tool.id)));
  // As it stands there: one button for all kinds of links.
  const [firstLink] = theirs.filter((tool) => isLink(tool.id));
  const shown = theirs
    .filter((tool) => !isLink(tool.id) || tool === firstLink)
    .map((tool) => (tool === firstLink ? { ...tool, name: 'Link' } : tool));
  const needing = (tool: string) =>
    role.tasks
      .filter((t) => inventory.tasks.get(t.task)?.tools?.includes(tool))
      .map((t) => t.name ?? inventory.tasks.get(t.task)?.name);
  return (
    <div className="grid gap-5">
      <section aria-label="The toolbar they get">
        <h2 className="label">The toolbar they get</h2>
        <div className="flex min-h-[46px] flex-wrap items-center gap-1 rounded-[10px] border border-line-2 bg-sheet px-1.5 py-1">
          {shown.map((tool) => (
            <span key={tool.id} className="flex min-h-[36px] items-center gap-1.5 px-2 font-semibold">
              <Icon name={toolIcon(tool.id)} />{' '}
              <span className={tool.group === 'words' && !isLink(tool.id) ? 'sr-only' : ''}>{tool.name}</span>
            </span>
          ))}
          {shown.length === 0 && <span className="px-2 text-ink-2">No tools: plain text only.</span>}
        </div>
        <p className="hint mt-1">
          Taking a tool away takes nothing out of pages. What was made with it stays; tables and pictures are protected
          as a whole.
        </p>
      </section>
      {groups.map((group) => (
        <section key={group.id} aria-label={group.name}>
          <h2 className="mb-1.5 text-base">{group.name}</h2>
          <ul className="card divide-y divide-line p-0">
            {group.tools.map((tool) => {
              const on = role.toolbar.tools.includes(tool.id);
              const needed = needing(tool.id);
              return (
                <li key={tool.id} className="flex flex-wrap items-center gap-x-4 gap-y-1 px-4 py-2.5">
                  <label className="flex min-w-[15rem] flex-1 items-start gap-3">
                    <input
                      type="checkbox"
                      className="mt-1 h-[18px] w-[18px] shrink-0 accent-pine"
                      disabled={readOnly}
                      checked={on}
                      onChange={(event) =>
                        change({ do: 'set-tool', role: role.id, tool: tool.id, on: event.target.checked })
                      }
                    />
                    <span>
                      <span className="flex items-center gap-2 font-semibold">
                        <Icon name={toolIcon(tool.id)} size={16} /> {tool.name}
                      </span>
                      <span className="block text-sm text-ink-2">{tool.description}</span>
                    </span>
                  </label>
                  {tool.care !== 'everyday' && (
                    <span className={`pill ${CARE[tool.care].pill} font-normal`}>{CARE[tool.care].name}</span>
                  )}
                  {needed.length > 0 && (
                    <span className={`pill whitespace-normal ${on ? 'pill-plain' : 'pill-brick'}`}>
                      {on ? 'needed for' : 'missing for'} “{needed[0]}”
                      {needed.length > 1 && ` and ${needed.length - 1} more`}
                    </span>
                  )}
                </li>
              );
            })}
          </ul>
        </section>
      ))}
      <section aria-label="Writing modes">
        <h2 className="mb-1.5 text-base">Writing modes</h2>
        <ul className="card divide-y divide-line p-0">
          {[...inventory.modes.values()].map((mode) => (
            <li key={mode.id} className="flex flex-wrap items-center gap-x-4 gap-y-1 px-4 py-2.5">
              <label className="flex min-w-[15rem] flex-1 items-start gap-3">
                <input
                  type="checkbox"
                  className="mt-1 h-[18px] w-[18px] shrink-0 accent-pine"
                  disabled={readOnly || mode.id === 'visual'}
                  checked={role.toolbar.modes.includes(mode.id)}
                  onChange={(event) =>
                    mode.id !== 'visual' &&
                    change({ do: 'set-mode', role: role.id, mode: mode.id, on: event.target.checked })
                  }
                />
                <span>
                  <span className="block font-semibold">{mode.name}</span>
                  <span className="block text-sm text-ink-2">{mode.description}</span>
                </span>
              </label>
              {mode.care !== 'everyday' && (
                <span className={`pill ${CARE[mode.care].pill} font-normal`}>{CARE[mode.care].name}</span>
              )}
            </li>
          ))}
        </ul>
      </section>
    </div>
  );
}
