import { Icon } from '../kit/Icon';
import { useAbout } from './about';

export type Mode = 'visual' | 'preview' | 'code';
const ICON = { visual: 'draft', preview: 'screen', code: 'code' } as const;

/** The ways a text is shown, where there is more than one. */
export function ModeSwitch({
  modes,
  mode,
  onMode,
}: {
  modes: { id: Mode; name: string; description: string }[];
  mode: Mode;
  onMode: (mode: Mode) => void;
}) {
  const { anchor } = useAbout();
  if (modes.length < 2) return null;
  return (
    <div role="group" aria-label="How the text is shown" className="ml-auto flex shrink-0 gap-1">
      {modes.map(({ id, name, description }) => (
        <button
          key={id}
          type="button"
          aria-pressed={mode === id}
          title={`${name}: ${description}`}
          data-anchor={id === 'preview' ? anchor('preview') : undefined}
          onClick={() => onMode(id)}
          className={`flex min-h-[36px] items-center gap-1.5 rounded-s px-2 text-sm font-semibold hover:bg-pine-soft ${mode === id ? 'bg-sheet text-pine shadow-[inset_0_0_0_1px_var(--color-line-2)]' : 'text-ink-2'}`}
        >
          <Icon name={ICON[id]} size={16} /> <span className="max-2xl:sr-only">{name}</span>
        </button>
      ))}
    </div>
  );
}
