import { useState } from 'react';
import { PagePicker } from '../kit/PagePicker';
import { usePages } from '../kit/usePages';
import { Empty, Labelled, ProblemNote, Said, Safe, useFocusLater } from '../kit/parts';
import { useKept } from '../kit/useKept';
import { useSend } from '../kit/useSend';

export interface PictureRow {
  id: string;
  name: string;
  description: string;
  url: string;
  usedOn: { title: string }[];
  /** The page whose part of the website it belongs to, if they see it. */
  part: { id: string; title: string } | null;
}
const MOST = 250;

function Describe({
  picture,
  onDone,
  onClose,
}: {
  picture: PictureRow;
  onDone: (description: string, part: PictureRow['part'], trial: boolean) => void;
  onClose: () => void;
}) {
  const { act, busy, problem, faultOf } = useSend();
  const [text, setText, forget] = useKept(`picture ${picture.id}`, picture.description);
  const { pages } = usePages('seen');
  const [part, setPart] = useState(picture.part?.id ?? '');
  const keep = async () => {
    const moved = part !== (picture.part?.id ?? '');
    const sent = await act('POST', `/api/pictures/${picture.id}/describe`, {
      description: text,
      ...(moved && { part: part === '' ? null : part }),
    });
    if (!sent?.ok) return;
    forget();
    const title = pages?.find(({ id }) => id === part)?.title ?? picture.part?.title ?? '';
    onDone(text.trim(), part === '' ? null : { id: part, title }, sent.value.trial === true);
  };
  return (
    <form
      className="grid gap-2"
      aria-label={`Describe ${picture.name}`}
      onSubmit={(event) => {
        event.preventDefault();
        void keep();
      }}
    >
      <ProblemNote problem={problem && !faultOf('description') ? problem : null} />
      <Labelled
        label="What does it show?"
        anchor="pictures.form.text"
        fault={faultOf('description')}
        hint={`One sentence. ${MOST - [...text].length} characters left.`}
      >
        {(ids) => (
          <textarea
            {...ids}
            autoFocus
            rows={3}
            maxLength={MOST}
            className="field"
            value={text}
            onChange={(event) => setText(event.target.value)}
          />
        )}
      </Labelled>
      <PagePicker
        label="Which part of the website does it belong to?"
        pages="seen"
        value={part}
        whole="None in particular"
        now={picture.part?.title}
        onChange={setPart}
      />
      <div className="flex flex-wrap gap-2">
        <button type="submit" className="btn btn-main btn-small" disabled={busy} data-anchor="pictures.form.keep">
          Keep this description
        </button>
        <button type="button" className="btn btn-small" onClick={onClose}>
          Cancel
        </button>
      </div>
    </form>
  );
}

/** All pictures with what they are said to show and where they are. */
export function Pictures(props: { pictures: PictureRow[]; mayDescribe: boolean }) {
  return (
    <Safe>
      <PictureGrid {...props} />
    </Safe>
  );
}

function PictureGrid({ pictures: initial, mayDescribe }: { pictures: PictureRow[]; mayDescribe: boolean }) {
  const [pictures, setPictures] = useState(initial);
  const [open, setOpen] = useState<string | null>(null);
  const [said, setSaid] = useState<string | null>(null);
  const focusLater = useFocusLater();
  const close = (id: string) => {
    setOpen(null);
    focusLater(`describe-${id}`);
  };
  if (pictures.length === 0) return <Empty icon="images" title="There are no pictures yet" />;
  return (
    <>
      <Said words={said} />
      <ul className="grid gap-3.5 sm:grid-cols-2 lg:grid-cols-3 xl:grid-cols-4" data-anchor="pictures.list.all">
        {pictures.map((picture) => (
          <li key={picture.id} className="card flex flex-col overflow-hidden p-0">
            <img
              src={picture.url}
              alt={picture.description}
              loading="lazy"
              className="aspect-[2/1] w-full object-cover"
            />
            <div className="flex flex-1 flex-col gap-1.5 p-3.5">
              <h2 className="clip text-base">{picture.name}</h2>
              {open === picture.id ? (
                <Describe
                  picture={picture}
                  onClose={() => close(picture.id)}
                  onDone={(description, part, trial) => {
                    close(picture.id);
                    setSaid(
                      trial
                        ? 'This is a trial: in the real room the description would be kept now.'
                        : `“${picture.name}” has a new description on every page that shows it.`,
                    );
                    if (!trial)
                      setPictures((all) => all.map((p) => (p.id === picture.id ? { ...p, description, part } : p)));
                  }}
                />
              ) : (
                <>
                  <p className="clip">{picture.description}</p>
                  <p className="clip mt-auto pt-1 text-sm text-ink-2">
                    {picture.usedOn.length
                      ? `On ${picture.usedOn.map((page) => `“${page.title}”`).join(', ')}`
                      : 'On no page'}
                    {picture.part && `. Belongs to “${picture.part.title}”`}
                  </p>
                  {mayDescribe && (
                    <button
                      id={`describe-${picture.id}`}
                      type="button"
                      className="btn btn-small self-start"
                      data-anchor="pictures.list.describe"
                      onClick={() => {
                        setOpen(picture.id);
                        setSaid(null);
                      }}
                    >
                      Describe<span className="sr-only"> {picture.name}</span>
                    </button>
                  )}
                </>
              )}
            </div>
          </li>
        ))}
      </ul>
    </>
  );
}
