import type { Editor } from '@tiptap/core';
import { useState } from 'react';
import { asHref, isHref, LINK_GONE, thingOf } from '@/core/content';
import { linkKindOf } from '@/core/toolbar';
import { happened } from '../kit/happened';
import { Dialog, Labelled } from '../kit/parts';
import PageTargets from './PageTargets';
import type { PictureChoice } from './PictureChooser';

type Kind = 'page' | 'file' | 'web' | 'mail';
const KINDS: Record<Kind, string> = {
  page: 'A page of this website',
  file: 'A picture or file',
  web: 'A web address',
  mail: 'Mail or phone',
};
/** The tool that makes links of a kind; an address of mail and a phone number are typed into the same field. */
const toolsOf = (kind: Kind): string[] => (kind === 'mail' ? ['link.mail', 'link.phone'] : [`link.${kind}`]);
const linkKind = (href: string): Kind => {
  const kind = linkKindOf(href);
  return kind === 'phone' ? 'mail' : kind;
};

/** Where marked words shall lead: a page, newest first or from the tree; a file; a web address; mail or phone. */
export default function LinkDialog({
  editor,
  kinds,
  pictures,
  onClose,
}: {
  editor: Editor;
  /** The tools at hand, one for each kind of link. */
  kinds: readonly string[];
  pictures: readonly PictureChoice[];
  onClose: () => void;
}) {
  const before = String(editor.getAttributes('link')['href'] ?? '');
  // What is there goes by its address here.
  const gone = thingOf(before) !== undefined;
  const [href, setHref] = useState<string>(gone ? '' : before);
  const offered = (Object.keys(KINDS) as Kind[]).filter((one) => toolsOf(one).some((tool) => kinds.includes(tool)));
  const [kind, setKind] = useState<Kind>(href === '' ? (offered[0] ?? 'page') : linkKind(href));
  const wasLink = editor.isActive('link');
  const { from, to } = editor.state.selection;
  const empty = editor.state.doc.textBetween(from, to).trim() === '' && !wasLink;
  const made = asHref(href);
  const mayMake = kinds.includes(`link.${linkKindOf(made)}`);
  const fits = isHref(made) && mayMake;
  const fault =
    href && !isHref(made)
      ? 'This is not an address a link can have.'
      : href && !mayMake && made !== before
        ? 'Your toolbar makes no links of this kind.'
        : undefined;
  const set = () => {
    editor.chain().focus().extendMarkRange('link').setLink({ href: made }).run();
    happened('link.made');
    onClose();
  };
  return (
    <Dialog open onClose={onClose} title="Where shall the words lead?">
      {empty ? (
        <p>Mark the words first that shall lead somewhere, then press Link again.</p>
      ) : (
        <form
          className="grid gap-4"
          onSubmit={(event) => {
            event.preventDefault();
            if (fits) set();
          }}
        >
          <div role="group" aria-label="What it leads to" className="flex flex-wrap gap-2">
            {offered.map((id) => (
              <button
                key={id}
                type="button"
                aria-pressed={kind === id}
                className={`btn btn-small ${kind === id ? 'bg-pine-soft text-pine-2' : ''}`}
                onClick={() => setKind(id)}
              >
                {KINDS[id]}
              </button>
            ))}
          </div>
          {gone && href === '' && <p className="note note-brick">{LINK_GONE}</p>}
          {kind === 'page' && <PageTargets href={href} onChoose={setHref} />}
          {kind === 'file' && (
            <Labelled label="Which one?">
              {(ids) => (
                <select
                  {...ids}
                  className="field"
                  value={pictures.some((picture) => picture.url === href) ? href : ''}
                  onChange={(event) => setHref(event.target.value)}
                >
                  <option value="">Choose…</option>
                  {pictures.map((picture) => (
                    <option key={picture.id} value={picture.url}>
                      {picture.name}
                    </option>
                  ))}
                </select>
              )}
            </Labelled>
          )}
          {kind === 'web' && (
            <Labelled
              label="Web address"
              hint={
                made !== href.trim() && fits
                  ? `It will lead to ${made}`
                  : 'https://… is put before it where it is missing.'
              }
              fault={fault}
            >
              {(ids) => (
                <input
                  {...ids}
                  className="field"
                  inputMode="url"
                  value={href}
                  onChange={(event) => setHref(event.target.value)}
                />
              )}
            </Labelled>
          )}
          {kind === 'mail' && (
            <Labelled
              label="Mail address or phone number"
              hint={made !== href.trim() && fits ? `It will lead to ${made}` : undefined}
              fault={fault}
            >
              {(ids) => (
                <input
                  {...ids}
                  className="field"
                  value={href.replace(/^(mailto|tel):/, '')}
                  onChange={(event) => setHref(event.target.value)}
                />
              )}
            </Labelled>
          )}
          <div className="flex flex-wrap gap-2">
            <button type="submit" className="btn btn-main" disabled={!fits}>
              Make the link
            </button>
            {wasLink && (
              <button
                type="button"
                className="btn btn-stop"
                onClick={() => {
                  editor.chain().focus().extendMarkRange('link').unsetLink().run();
                  onClose();
                }}
              >
                Take the link away
              </button>
            )}
          </div>
        </form>
      )}
    </Dialog>
  );
}
