import type { ElementState } from '@/core/screens';
import { Icon } from '../../kit/Icon';

/** What stands on the miniature for a state, as marks. */
export function Marks({ state }: { state: ElementState }) {
  const marks = [
    state.show === 'hidden' && (['eye', 'hidden'] as const),
    state.show === 'closed' && (['down', 'closed at first'] as const),
    state.show === 'shown' && (['eye', 'open'] as const),
    state.lock !== undefined && (['lock', 'locked'] as const),
    state.required && (['check', 'must be filled in'] as const),
    state.choices && (['list', `offers ${state.choices.length}`] as const),
    state.value !== undefined && (['draft', 'filled beforehand'] as const),
  ].filter((mark) => mark !== false && mark !== undefined);
  if (marks.length === 0) return null;
  return (
    <span className="mt-0.5 flex flex-wrap gap-1">
      {marks.map(([icon, words]) => (
        <span key={words} className="pill pill-sun text-sm">
          <Icon name={icon} size={13} /> {words}
        </span>
      ))}
    </span>
  );
}
