import { ICONS, type IconName } from './iconNames';
import drawn from './icons.svg?url';

export type { IconName };

/**
 * A picture beside a word, never instead of it; screen readers pass it over. All are drawn in one file that a browser
 * asks for once.
 */
export function Icon({
  name,
  size = 18,
  filled = false,
  className = '',
}: {
  name: IconName;
  size?: number;
  filled?: boolean;
  className?: string;
}) {
  return (
    <svg width={size} height={size} aria-hidden="true" className={`icon ${filled ? 'filled' : ''} ${className}`.trim()}>
      <use href={`${drawn}#${name}`} />
    </svg>
  );
}

export const isIcon = (name: string): name is IconName => name in ICONS;
export const sectionIcon = (name: string): IconName => (isIcon(name) ? name : 'file');
