import { useLayoutEffect, useRef, useState } from 'react';
import { Icon, type IconName } from '../kit/Icon';

const SIZES = [
  { id: 'desktop', name: 'Desktop', icon: 'screen', px: 1280 },
  { id: 'tablet', name: 'Tablet', icon: 'tablet', px: 820 },
  { id: 'phone', name: 'Phone', icon: 'phone', px: 390 },
] as const satisfies readonly { id: string; name: string; icon: IconName; px: number }[];
const HEIGHT_PX = 720;

/**
 * The page with the draft in it, as wide as a desktop, a tablet or a phone; made smaller to fit where there is less
 * room.
 */
export function PreviewFrame({ src }: { src: string }) {
  const [size, setSize] = useState<(typeof SIZES)[number]>(SIZES[0]);
  const [room, setRoom] = useState(0);
  const box = useRef<HTMLDivElement>(null);
  useLayoutEffect(() => {
    const element = box.current;
    if (!element) return undefined;
    const watch = new ResizeObserver(() => setRoom(element.clientWidth));
    watch.observe(element);
    return () => watch.disconnect();
  }, []);
  const scale = room === 0 ? 1 : Math.min(1, room / size.px);
  return (
    <div className="min-w-0">
      <div role="group" aria-label="How wide" className="mb-2 flex gap-1">
        {SIZES.map((choice) => (
          <button
            key={choice.id}
            type="button"
            aria-pressed={size.id === choice.id}
            className={`btn btn-small ${size.id === choice.id ? 'bg-pine-soft text-pine-2' : ''}`}
            onClick={() => setSize(choice)}
          >
            <Icon name={choice.icon} size={15} /> {choice.name}
          </button>
        ))}
      </div>
      <div
        ref={box}
        className="overflow-hidden rounded-[10px] border border-line bg-paper"
        style={{ height: HEIGHT_PX }}
      >
        <iframe
          title="Preview of the page"
          src={src}
          className="mx-auto block origin-top-left bg-white"
          style={{
            width: size.px,
            height: HEIGHT_PX / scale,
            transform: `scale(${scale})`,
            marginLeft: Math.max(0, (room - size.px) / 2),
          }}
        />
      </div>
    </div>
  );
}
