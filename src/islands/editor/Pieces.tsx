import { useRef, useState, type ReactNode } from 'react';
import { emptyDocument, PIECE_HEADING, piecesOf, type Document, type FieldOf, type Piece } from '@/core/content';
import { Icon } from '../kit/Icon';
import { Dialog, Labelled, useFocusLater } from '../kit/parts';
import { newKey, send } from '../kit/send';
import { PictureChooser, type PictureChoice } from './PictureChooser';
import { placeBack, wholeOrder } from './inPlace';

interface PiecesProps {
  field: FieldOf<'pieces'>;
  pieces: Piece[];
  /** The pieces as they are at this moment, also between two drawings of the screen. */
  now: () => Piece[];
  onChange: (pieces: Piece[]) => void;
  readOnly: boolean;
  pictures: PictureChoice[];
  /** The writing area for the text of a piece. */
  area: (piece: Piece, onText: (text: Document) => void, toolbarIn: HTMLElement | null) => ReactNode;
}

const fresh = (region: string): Piece => ({
  id: newKey().slice(0, 8),
  region,
  heading: PIECE_HEADING,
  text: emptyDocument(),
  picture: null,
});

/**
 * A page's body in pieces: added, put in order, moved between parts, copied from other pages, taken out and brought
 * back.
 */
export default function Pieces({ field, pieces, now, onChange, readOnly, pictures, area }: PiecesProps) {
  const [gone, setGone] = useState<readonly Piece[]>([]);
  const [copying, setCopying] = useState<string | null>(null);
  const list = useRef<HTMLDivElement>(null);
  // One toolbar for all: that of the piece that is or was last written in.
  const [slot, setSlot] = useState<HTMLElement | null>(null);
  const [writing, setWriting] = useState<string | null>(null);
  const turn = pieces.some((piece) => piece.id === writing) ? writing : (pieces[0]?.id ?? null);
  const order = useRef<string[]>([]);
  const focusLater = useFocusLater();
  const put = (id: string, part: Partial<Piece>) =>
    onChange(now().map((piece) => (piece.id === id ? { ...piece, ...part } : piece)));
  const inRegion = (region: string) => pieces.filter((piece) => piece.region === region);
  const swap = (piece: Piece, by: 1 | -1) => {
    const mates = inRegion(piece.region);
    const other = mates[mates.indexOf(piece) + by];
    if (other) onChange(pieces.map((p) => (p === piece ? other : p === other ? piece : p)));
  };
  const add = (piece: Piece) => {
    onChange([...pieces, piece]);
    // Its heading is marked, so that another can be typed at once.
    focusLater(() => {
      const heading = list.current?.querySelector<HTMLInputElement>(`[data-piece="${piece.id}"] input`);
      heading?.select();
      return heading;
    });
  };
  const takeOut = (piece: Piece) => {
    // Where it stood, among those taken out before, too: there it comes back, in whatever order they do.
    setGone([...gone, piece]);
    order.current = wholeOrder(
      order.current,
      pieces.map(({ id }) => id),
    );
    onChange(pieces.filter((p) => p !== piece));
    focusLater(() => list.current?.querySelector<HTMLElement>(`[data-gone="${piece.id}"] button`));
  };
  const bringBack = (piece: Piece) => {
    const at = placeBack(
      piece.id,
      pieces.map(({ id }) => id),
      order.current,
    );
    setGone(gone.filter((one) => one !== piece));
    onChange([...pieces.slice(0, at), piece, ...pieces.slice(at)]);
    focusLater(() => list.current?.querySelector<HTMLInputElement>(`[data-piece="${piece.id}"] input`));
  };
  return (
    <div
      ref={list}
      className="grid grid-cols-[minmax(0,1fr)] gap-2"
      onKeyDown={(event) => {
        // In a text or a field the key takes back what was typed there.
        const typing =
          event.target instanceof HTMLElement &&
          (event.target.isContentEditable || event.target.matches('input, textarea'));
        const last = gone.at(-1);
        if (typing || !last || !(event.ctrlKey || event.metaKey) || event.key.toLowerCase() !== 'z') return;
        event.preventDefault();
        bringBack(last);
      }}
    >
      {!readOnly && <div ref={setSlot} className="sticky top-0 z-10" data-over="top" />}
      {field.regions.map((region) => (
        <section
          key={region.id}
          aria-label={region.name}
          className="grid grid-cols-[minmax(0,1fr)] gap-2 rounded-[10px] border border-line bg-paper px-3 pt-1.5 pb-3"
        >
          <h2 className="text-base">{region.name}</h2>
          <div role="status" className="grid gap-2 empty:absolute">
            {gone
              .filter((piece) => piece.region === region.id)
              .map((piece) => (
                <p key={piece.id} data-gone={piece.id} className="note flex flex-wrap items-center gap-3">
                  <span className="clip">“{piece.heading || 'A piece without a heading'}” is taken out.</span>
                  <button type="button" className="btn btn-small" title="Ctrl Z" onClick={() => bringBack(piece)}>
                    <Icon name="undo" size={15} /> Bring it back<span className="sr-only">: {piece.heading}</span>
                  </button>
                </p>
              ))}
          </div>
          {inRegion(region.id).length === 0 && <p className="text-ink-2">Nothing here yet.</p>}
          {inRegion(region.id).map((piece, i, mates) => (
            <div
              key={piece.id}
              data-piece={piece.id}
              role="group"
              aria-label={`Piece: ${piece.heading || 'without a heading'}`}
              className="card grid grid-cols-[minmax(0,1fr)] gap-2 pt-2"
            >
              <div className="flex flex-wrap items-start gap-2">
                <div className="min-w-[12rem] flex-1">
                  <Labelled
                    label="Heading"
                    beside
                    fault={piece.heading === PIECE_HEADING ? 'Still the heading it began with.' : undefined}
                  >
                    {(ids) => (
                      <input
                        {...ids}
                        className="field"
                        dir="auto"
                        maxLength={120}
                        readOnly={readOnly}
                        value={piece.heading}
                        onChange={(event) => put(piece.id, { heading: event.target.value })}
                      />
                    )}
                  </Labelled>
                </div>
                {!readOnly && (
                  <div className="flex flex-wrap gap-1 pt-1.5">
                    <button
                      type="button"
                      className="btn btn-small px-2"
                      disabled={i === 0}
                      aria-label={`Move “${piece.heading}” up`}
                      onClick={() => swap(piece, -1)}
                    >
                      <Icon name="up" size={16} />
                    </button>
                    <button
                      type="button"
                      className="btn btn-small px-2"
                      disabled={i === mates.length - 1}
                      aria-label={`Move “${piece.heading}” down`}
                      onClick={() => swap(piece, 1)}
                    >
                      <Icon name="down" size={16} />
                    </button>
                    {field.regions
                      .filter((other) => other.id !== region.id)
                      .map((other) => (
                        <button
                          key={other.id}
                          type="button"
                          className="btn btn-small"
                          onClick={() =>
                            onChange([...pieces.filter((p) => p !== piece), { ...piece, region: other.id }])
                          }
                        >
                          To “{other.name}”
                        </button>
                      ))}
                    <button type="button" className="btn btn-small btn-stop" onClick={() => takeOut(piece)}>
                      Take out<span className="sr-only"> “{piece.heading}”</span>
                    </button>
                  </div>
                )}
              </div>
              <div onFocusCapture={() => setWriting(piece.id)}>
                {area(piece, (text) => put(piece.id, { text }), piece.id === turn ? slot : null)}
              </div>
              <PictureChooser
                label="Picture beside the text"
                value={piece.picture}
                pictures={pictures}
                readOnly={readOnly}
                onChange={(picture) => put(piece.id, { picture })}
                small
              />
            </div>
          ))}
          {!readOnly && pieces.length < field.most && (
            <div className="flex flex-wrap gap-2">
              <button type="button" className="btn btn-small" onClick={() => add(fresh(region.id))}>
                <Icon name="plus" size={15} /> Add a piece<span className="sr-only"> to {region.name}</span>
              </button>
              <button type="button" className="btn btn-quiet btn-small" onClick={() => setCopying(region.id)}>
                <Icon name="copy" size={15} /> Copy one from another page
                <span className="sr-only"> to {region.name}</span>
              </button>
            </div>
          )}
        </section>
      ))}
      {copying !== null && (
        <CopyPiece
          field={field.id}
          onClose={() => setCopying(null)}
          onChoose={(piece) => {
            setCopying(null);
            add({ ...piece, id: fresh(copying).id, region: copying });
          }}
        />
      )}
    </div>
  );
}

/** Finds a page in pieces, and one of its pieces. */
function CopyPiece({
  field,
  onChoose,
  onClose,
}: {
  field: string;
  onChoose: (piece: Piece) => void;
  onClose: () => void;
}) {
  const [pages, setPages] = useState<{ id: string; title: string }[] | string | null>(null);
  const [page, setPage] = useState('');
  const [pieces, setPieces] = useState<Piece[] | string | null>(null);
  const asked = useRef(false);
  if (!asked.current) {
    asked.current = true;
    void send('GET', '/api/pages/list?layout=pieces&sort=title&dir=up').then((sent) =>
      setPages(sent.ok ? sent.value.pages : sent.problem.detail),
    );
  }
  const look = async (id: string) => {
    setPage(id);
    setPieces(null);
    const sent = await send('GET', `/api/items/${id}/content`);
    setPieces(sent.ok ? piecesOf(sent.value.content, field) : sent.problem.detail);
  };
  return (
    <Dialog open onClose={onClose} title="Copy a piece from another page">
      <div className="grid gap-4">
        {pages === null && <p role="status">Looking…</p>}
        {typeof pages === 'string' && <p role="alert">{pages}</p>}
        {Array.isArray(pages) && (
          <Labelled label="From which page?">
            {(ids) => (
              <select {...ids} className="field" value={page} onChange={(event) => void look(event.target.value)}>
                <option value="">Choose a page…</option>
                {pages.map((choice) => (
                  <option key={choice.id} value={choice.id}>
                    {choice.title}
                  </option>
                ))}
              </select>
            )}
          </Labelled>
        )}
        {page !== '' && pieces === null && <p role="status">Looking…</p>}
        {typeof pieces === 'string' && <p role="alert">{pieces}</p>}
        {Array.isArray(pieces) && (
          <ul className="grid gap-2">
            {pieces.map((piece) => (
              <li key={piece.id}>
                <button
                  type="button"
                  className="btn w-full justify-start whitespace-normal"
                  onClick={() => onChoose(piece)}
                >
                  <span className="clip">{piece.heading || 'Without a heading'}</span>
                </button>
              </li>
            ))}
            {pieces.length === 0 && <li className="text-ink-2">This page has no pieces.</li>}
          </ul>
        )}
      </div>
    </Dialog>
  );
}
