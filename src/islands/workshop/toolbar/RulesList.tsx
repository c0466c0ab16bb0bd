import { closestCenter, DndContext } from '@dnd-kit/core';
import { SortableContext, useSortable, verticalListSortingStrategy } from '@dnd-kit/sortable';
import type { PlanToolRule } from '@/core/plan';
import { toolRuleInWords, type RuleNames } from '@/core/toolbar';
import { dragWords, useDragSensors } from '../../kit/drag';
import { Icon } from '../../kit/Icon';

function Rule({
  rule,
  words,
  marked,
  pill,
  readOnly,
  onChange,
  onRemove,
}: {
  rule: PlanToolRule;
  words: string;
  marked: boolean;
  pill: { words: string; bad: boolean } | null;
  readOnly: boolean;
  onChange: () => void;
  onRemove: () => void;
}) {
  const { attributes, listeners, setNodeRef, setActivatorNodeRef, transform, transition } = useSortable({
    id: rule.id,
  });
  return (
    <li
      ref={setNodeRef}
      style={{ transform: transform ? `translate3d(0, ${transform.y}px, 0)` : undefined, transition }}
      className={`flex items-start gap-2 bg-sheet px-2 py-1.5 ${marked ? 'shadow-[inset_4px_0_0_var(--color-sun)]' : ''}`}
    >
      <button
        type="button"
        ref={setActivatorNodeRef}
        {...attributes}
        {...listeners}
        disabled={readOnly}
        className="flex h-8 w-8 shrink-0 cursor-grab items-center justify-center rounded-s text-ink-2 hover:bg-pine-soft"
        aria-label={`Move the rule: ${words}`}
      >
        <Icon name="grip" />
      </button>
      <span className="clip min-w-0 flex-1 self-center">{words}</span>
      {pill && (
        <span className={`pill shrink-0 self-center ${pill.bad ? 'pill-sun' : 'pill-pine'}`}>
          {pill.bad && <Icon name="warn" size={13} />} {pill.words}
        </span>
      )}
      {!readOnly && (
        <span className="flex shrink-0">
          <button
            type="button"
            className="btn btn-quiet btn-small"
            aria-label={`Change the rule: ${words}`}
            onClick={onChange}
          >
            Change
          </button>
          <button
            type="button"
            className="btn btn-quiet btn-small"
            aria-label={`Do away with the rule: ${words}`}
            onClick={onRemove}
          >
            <Icon name="close" size={15} />
          </button>
        </span>
      )}
    </li>
  );
}

/** The rules for a role's tools as sentences, the weaker first where they are as strong; to be put in another order. */
export function RulesList({
  rules,
  names,
  marked,
  pillOf,
  readOnly,
  onMove,
  onChange,
  onRemove,
}: {
  rules: readonly PlanToolRule[];
  names: RuleNames;
  /** Those that do something at the place chosen. */
  marked: ReadonlySet<string>;
  pillOf: (rule: string) => { words: string; bad: boolean } | null;
  readOnly: boolean;
  /** To the place of another. */
  onMove: (rule: string, over: string) => void;
  onChange: (rule: PlanToolRule) => void;
  onRemove: (rule: string) => void;
}) {
  const sensors = useDragSensors();
  const wordsOf = (id: string) => {
    const rule = rules.find((one) => one.id === id);
    return rule ? toolRuleInWords(rule, names) : 'A rule';
  };
  return (
    <DndContext
      sensors={sensors}
      collisionDetection={closestCenter}
      accessibility={dragWords(wordsOf)}
      onDragEnd={({ active, over }) => {
        if (over && over.id !== active.id) onMove(String(active.id), String(over.id));
      }}
    >
      <SortableContext items={rules.map(({ id }) => id)} strategy={verticalListSortingStrategy}>
        <ul aria-label="Rules" className="card divide-y divide-line overflow-hidden p-0">
          {rules.map((rule) => (
            <Rule
              key={rule.id}
              rule={rule}
              words={wordsOf(rule.id)}
              marked={marked.has(rule.id)}
              pill={pillOf(rule.id)}
              readOnly={readOnly}
              onChange={() => onChange(rule)}
              onRemove={() => onRemove(rule.id)}
            />
          ))}
          {rules.length === 0 && (
            <li className="p-3 text-ink-2">No rule is for this role: it writes plain words everywhere.</li>
          )}
        </ul>
      </SortableContext>
    </DndContext>
  );
}
