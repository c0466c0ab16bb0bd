import { useRef, useState } from 'react';
import { emptyDocument, isEmptyDocument, SHORT_TEXT_TOOLS, shortTextSchema } from '@/core/content';
import type { WidgetSettings } from '@/core/dashboard';
import { canonical } from '@/core/json';
import { WritingSkeleton } from '../editor/WritingSkeleton';
import { later } from '../kit/later';
import { useLeft } from '../kit/useLeft';
import { unfit } from './unfit';
import { useInventory } from '../kit/inventory';

const WritingArea = later(() => import('../editor/WritingArea'), <WritingSkeleton />);

type Words = NonNullable<WidgetSettings['words']>;

/** A short text of the plan, set as one goes: when it is left, or goes from the screen. `id` says what it is of. */
export function ShortText({
  id,
  text,
  readOnly,
  onCommit,
}: {
  id: string;
  text: Words | undefined;
  readOnly: boolean;
  onCommit: (text: Words | null) => void;
}) {
  const inventory = useInventory();
  const now = canonical(text ?? null);
  /** What was typed since it was set last. */
  const typed = useRef<unknown>(unfit.get(id));
  const [isUnfit, setUnfit] = useState(unfit.has(id));
  /** What the area shows, but for what was typed: with what came from elsewhere it is made anew. */
  const [made, setMade] = useState({ times: 0, of: now });
  if (made.of !== now && typed.current === undefined) setMade({ times: made.times + 1, of: now });
  const commit = () => {
    if (typed.current === undefined || readOnly) return;
    const parsed = shortTextSchema.safeParse(typed.current);
    setUnfit(!parsed.success);
    if (!parsed.success) {
      unfit.set(id, typed.current);
      return;
    }
    unfit.delete(id);
    typed.current = undefined;
    const next = isEmptyDocument(parsed.data) ? null : parsed.data;
    if (canonical(next) === now) return;
    setMade({ ...made, of: canonical(next) });
    onCommit(next);
  };
  const leave = useLeft(commit);
  return (
    <div
      onBlur={(event) => {
        if (!event.currentTarget.contains(event.relatedTarget)) leave();
      }}
    >
      <WritingArea
        key={made.times}
        label="Words"
        loaded={(unfit.get(id) as Words | undefined) ?? text ?? emptyDocument()}
        onReady={() => () => undefined}
        with={{ tools: SHORT_TEXT_TOOLS, keep: {}, groups: [] }}
        allTools={[...inventory.tools.values()]}
        readOnly={readOnly}
        pictures={[]}
        small
        previewHref={null}
        onChange={(next) => (typed.current = next)}
        onPreview={() => Promise.resolve()}
      />
      <div role="alert" className="empty:hidden">
        {isUnfit && (
          <p className="note note-brick mt-2">
            These words hold something a short text has no place for: use paragraphs, lists, bold, italic and links.
            They are set when they fit.
          </p>
        )}
      </div>
    </div>
  );
}
