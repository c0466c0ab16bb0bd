import { useEffect, useState, type ReactNode, type RefObject } from 'react';
import { documentOf, piecesOf, type Document, type Field } from '@/core/content';
import type { Tool } from '@/core/inventory';
import type { TextTools } from '@/core/room';
import { later } from '../kit/later';
import { useAbout } from './about';
import { preparedField, LockNote, Shut, useElement } from './elements';
import { FieldInput } from './FieldInput';
import type { Wish } from './kept';
import type { ItemDraft } from './useItem';
import type { PictureChoice } from './PictureChooser';
import type { PutIn } from './useWriting';
import { WritingSkeleton } from './WritingSkeleton';

// Fetched when they are needed: the first load of the screen stays small.
const WritingArea = later(() => import('./WritingArea'), <WritingSkeleton />);
const Pieces = later(() => import('./Pieces'), <WritingSkeleton />);

/** A field of an item as its edit screen was prepared; what lies in a panel is filled in there. */
export function FieldBlock({
  field: given,
  draft,
  areas,
  mayChange,
  faultOf,
  textTools,
  allTools,
  picturesIn,
  people,
  me,
  previewHref,
  onAsk,
}: {
  /** Asks somebody else for a change in a field; null where nobody can be asked. */
  onAsk: ((field: string, wish: Wish) => void) | null;
  field: Field;
  draft: ItemDraft;
  /** How text is put into each writing area from outside, by field, or by field and piece. */
  areas: RefObject<Map<string, PutIn>>;
  mayChange: (field: string) => boolean;
  faultOf: (field: string) => string | undefined;
  /** What they write with in a field. */
  textTools: (field: string) => TextTools;
  allTools: Tool[];
  /** The pictures there are to choose from in a field. */
  picturesIn: (field: string) => PictureChoice[];
  people: { id: string; name: string }[];
  /** Who writes. */
  me: string;
  /** Null where it cannot be previewed. */
  previewHref: string | null;
}) {
  const { anchor } = useAbout();
  const { content, change } = draft;
  // The writing area is made in the browser only.
  const [inBrowser, setInBrowser] = useState(false);
  useEffect(() => setInBrowser(true), []);

  const area = (
    field: Field,
    key: string,
    label: string,
    loaded: Document,
    onChange: (document: Document) => void,
    isTheirs: boolean,
    shared?: { toolbarIn: HTMLElement | null },
  ) => (
    // Other tools, another area: after another layout was chosen.
    <div key={`${key} ${textTools(field.id).tools.join(' ')}`} data-field={key}>
      {!inBrowser && <WritingSkeleton />}
      {inBrowser && (
        <WritingArea
          label={label}
          loaded={loaded}
          onReady={(put) => {
            areas.current.set(key, put);
            return () => areas.current.delete(key);
          }}
          with={textTools(field.id)}
          allTools={allTools}
          readOnly={!isTheirs}
          pictures={picturesIn(field.id)}
          small={shared !== undefined}
          {...shared}
          previewHref={previewHref}
          onAsk={isTheirs && onAsk ? (wish) => onAsk(field.id, wish) : undefined}
          onChange={onChange}
          onPreview={() => draft.save()}
        />
      )}
    </div>
  );
  const state = useElement(given.id);
  if (state.show === 'hidden') return null;
  const field = preparedField(given, state);
  const isTheirs = mayChange(field.id) && state.lock === undefined;
  const about = (
    <>
      {field.hint && <p className="hint mb-1">{field.hint}</p>}
      <LockNote reason={state.lock} />
    </>
  );
  const wrapped = (content: ReactNode) =>
    state.show === 'closed' ? <Shut name={field.name}>{content}</Shut> : content;
  if (field.kind === 'rich')
    return wrapped(
      <div>
        {state.show !== 'closed' && <p className="label">{field.name}</p>}
        {about}
        {area(
          field,
          field.id,
          field.name,
          documentOf(draft.current(), field.id),
          (document) => change({ [field.id]: document }),
          isTheirs,
        )}
      </div>,
    );
  if (field.kind === 'pieces')
    return wrapped(
      inBrowser && (
        <>
          {about}
          <Pieces
            field={field}
            pieces={piecesOf(content, field.id)}
            now={() => piecesOf(draft.current(), field.id)}
            readOnly={!isTheirs}
            pictures={picturesIn(field.id)}
            onChange={(pieces) => change({ [field.id]: pieces })}
            area={(piece, onText, toolbarIn) =>
              area(field, `${field.id} ${piece.id}`, `Text of “${piece.heading}”`, piece.text, onText, isTheirs, {
                toolbarIn,
              })
            }
          />
        </>
      ),
    );
  return (
    <FieldInput
      field={given}
      value={content[field.id]}
      onChange={(value) => change({ [field.id]: value })}
      readOnly={!mayChange(field.id)}
      context={{ people, me, pictures: given.kind === 'picture' ? picturesIn(given.id) : [] }}
      fault={faultOf(field.id)}
      big={field.id === 'title'}
      anchor={anchor(field.id)}
    />
  );
}
