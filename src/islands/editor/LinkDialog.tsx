import type { Editor } from '@tiptap/core';
import { useEffect, useState } from 'react';
import { isHref } from '@/core/content';
import { Dialog, Labelled } from '../kit/parts';
import { send } from '../kit/send';
import type { PictureChoice } from './PictureChooser';

type Kind = 'page' | 'file' | 'web' | 'mail';
const KINDS: Record<Kind, string> = { page: 'A page of this website', file: 'A picture or file', web: 'A web address', mail: 'Mail or phone' };
const kindOf = (href: string): Kind => (href.startsWith('/media/') ? 'file' : href.startsWith('/') || href === '' ? 'page' : /^(mailto|tel):/.test(href) ? 'mail' : 'web');
const AFTER_TYPING_MS = 250;

/** Where marked words shall lead: a page, newest first; a file; a web address; mail or phone. */
export default function LinkDialog({ editor, pictures, onClose }: { editor: Editor; pictures: readonly PictureChoice[]; onClose: () => void }) {
  const [href, setHref] = useState<string>(String(editor.getAttributes('link')['href'] ?? ''));
  const [kind, setKind] = useState<Kind>(kindOf(href));
  const wasLink = editor.isActive('link');
  const { from, to } = editor.state.selection;
  const empty = editor.state.doc.textBetween(from, to).trim() === '' && !wasLink;
  const fits = isHref(href.trim());
  const fault = href && !fits ? 'This is not an address a link can have.' : undefined;
  const set = () => {
    editor.chain().focus().extendMarkRange('link').setLink({ href: href.trim() }).run();
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
            {(Object.keys(KINDS) as Kind[]).map((id) => (
              <button key={id} type="button" aria-pressed={kind === id} className={`btn btn-small ${kind === id ? 'bg-pine-soft text-pine-2' : ''}`} onClick={() => setKind(id)}>
                {KINDS[id]}
              </button>
            ))}
          </div>
          {kind === 'page' && <PageTargets href={href} onChoose={setHref} />}
          {kind === 'file' && (
            <Labelled label="Which one?">
              {(ids) => (
                <select {...ids} className="field" value={pictures.some((picture) => picture.url === href) ? href : ''} onChange={(event) => setHref(event.target.value)}>
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
            <Labelled label="Web address" hint="It begins with https://" fault={fault}>
              {(ids) => <input {...ids} className="field" inputMode="url" value={href} onChange={(event) => setHref(event.target.value)} />}
            </Labelled>
          )}
          {kind === 'mail' && (
            <Labelled label="Mail address or phone number" fault={fault}>
              {(ids) => (
                <input
                  {...ids}
                  className="field"
                  value={href.replace(/^(mailto|tel):/, '')}
                  onChange={(event) => {
                    const text = event.target.value.trim();
                    setHref(text === '' ? '' : text.includes('@') ? `mailto:${text}` : `tel:${text.replaceAll(/[\s()/-]/g, '')}`);
                  }}
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

interface Target { title: string; address: string }

/** Pages of the website to lead to: those changed last come first, and a search forgives a wrong letter. */
function PageTargets({ href, onChoose }: { href: string; onChoose: (href: string) => void }) {
  const [typed, setTyped] = useState('');
  const [targets, setTargets] = useState<Target[] | string | null>(null);
  useEffect(() => {
    let current = true;
    const timer = setTimeout(() => void send<{ targets: Target[] }>('GET', `/api/pages/targets?q=${encodeURIComponent(typed)}`).then((sent) => current && setTargets(sent.ok ? sent.value.targets : sent.problem.detail)), typed ? AFTER_TYPING_MS : 0);
    return () => {
      current = false;
      clearTimeout(timer);
    };
  }, [typed]);
  return (
    <div className="grid gap-2">
      <Labelled label="Find the page" hint="The pages changed last come first.">{(ids) => <input {...ids} type="search" className="field" value={typed} onChange={(event) => setTyped(event.target.value)} />}</Labelled>
      {targets === null && <p role="status">Looking…</p>}
      {typeof targets === 'string' && <p role="alert">{targets}</p>}
      {Array.isArray(targets) && (
        <ul aria-label="Pages" className="max-h-[15rem] overflow-y-auto rounded-s border border-line p-1">
          {targets.map((target) => (
            <li key={target.address}>
              <button type="button" aria-pressed={target.address === href} className={`flex w-full flex-wrap items-baseline gap-x-2 rounded-s px-2 py-1.5 text-left hover:bg-pine-wash ${target.address === href ? 'bg-pine-soft font-semibold' : ''}`} onClick={() => onChoose(target.address)}>
                <span className="clip" dir="auto">{target.title}</span> <span className="clip text-sm font-normal text-ink-2">{target.address}</span>
              </button>
            </li>
          ))}
          {targets.length === 0 && <li className="p-2 text-ink-2">No page fits.</li>}
        </ul>
      )}
    </div>
  );
}
