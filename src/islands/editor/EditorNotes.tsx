import { sayList, sayTime, type Calendar } from '@/core/words';
import { Icon } from '../kit/Icon';
import { Said } from '../kit/parts';
import type { ItemDraft } from './useItem';
import type { EditedItem } from './props';

/** Which fields of an item are somebody's to change: named by the shorter list. */
function ofFields(
  all: readonly string[],
  mayChange: (field: string) => boolean,
  nameOf: (field: string) => string,
): string {
  const [yours, others] = [all.filter(mayChange), all.filter((field) => !mayChange(field))].map((fields) =>
    fields.map((field) => `“${nameOf(field)}”`),
  ) as [string[], string[]];
  return yours.length <= others.length
    ? `Yours to change here: ${sayList(yours)}. Everything else is here to be read.`
    : `Everything here is yours to change but ${sayList(others)}.`;
}

/**
 * What is to be known before writing: who else is here, what may be changed, where the draft comes from, what this
 * browser kept.
 */
export function EditorNotes({
  item,
  one,
  me,
  said,
  others,
  readOnly,
  readOnlyWhy,
  theirFields,
  fieldNames,
  mayChange,
  draft,
  onBringBack,
  calendar,
  now,
}: {
  item: EditedItem;
  one: string;
  me: { id: string };
  said: string | null;
  others: readonly { name: string; typing: boolean }[];
  readOnly: boolean;
  readOnlyWhy: string | null;
  theirFields: readonly string[] | null;
  fieldNames: ReadonlyMap<string, string>;
  mayChange: (field: string) => boolean;
  draft: ItemDraft;
  onBringBack: () => void;
  calendar: Calendar;
  now: string;
}) {
  return (
    <>
      <div role="status" className="empty:absolute">
        {others.length > 0 && (
          <p className="note flex items-center gap-2">
            <Icon name="users" size={17} />
            <span className="clip">
              {others
                .map((other) => `${other.name} ${other.typing ? 'is writing here' : `has this ${one} open, too`}`)
                .join('. ')}
              .
            </span>
          </p>
        )}
      </div>
      <Said words={said} />
      {readOnlyWhy && <p className="note">{readOnlyWhy}</p>}
      {!readOnly && theirFields !== null && [...fieldNames.keys()].some((field) => !mayChange(field)) && (
        <p className="note">{ofFields([...fieldNames.keys()], mayChange, (id) => fieldNames.get(id) ?? id)}</p>
      )}
      {item.draft?.sentBackWord && (
        <div className="note">
          <strong>It came back with a word:</strong> <span className="clip">“{item.draft.sentBackWord}”</span>
        </div>
      )}
      {!readOnly && item.draft && item.draft.updatedById !== me.id && (
        <p className="note">
          You go on with a draft that {item.draft.updatedBy} changed last,{' '}
          {sayTime(new Date(item.draft.updatedAt), calendar, new Date(now))}.
        </p>
      )}
      {draft.backup && (
        <div className="note flex flex-wrap items-center gap-3" role="region" aria-label="Text kept in this browser">
          <span className="min-w-[14rem] flex-1">
            This browser kept text of yours from {sayTime(new Date(draft.backup.at), calendar, new Date(now))} that
            never reached the website.
          </span>
          <button type="button" className="btn btn-small" onClick={onBringBack}>
            Bring it back
          </button>
          <button type="button" className="btn btn-quiet btn-small" onClick={draft.dropBackup}>
            Do without it
          </button>
        </div>
      )}
    </>
  );
}
