import { useEffect, useState } from 'react';
import {
  searchResultOf,
  SETTINGS,
  slugFrom,
  textOf,
  type FieldValue,
  type PageContent,
  type Layouts,
} from '@/core/content';
import { sayBegin } from '@/core/words';
import { Labelled } from '../kit/parts';
import { send } from '../kit/send';
import { LockNote, useElement } from '../editor/elements';
import { FieldInput } from '../editor/FieldInput';
import type { FieldContext } from '../editor/inputs/input';
import { Panel } from '../editor/Panel';

interface PartProps {
  page: string;
  content: PageContent;
  change: (part: PageContent) => void;
  mayChange: (field: string) => boolean;
  context: FieldContext;
  faultOf: (field: string) => string | undefined;
}

const setting = (id: (typeof SETTINGS)[number]['id']) => SETTINGS.find((field) => field.id === id) ?? SETTINGS[0];

function Setting({
  id,
  content,
  change,
  mayChange,
  context,
  faultOf,
}: PartProps & { id: (typeof SETTINGS)[number]['id'] }) {
  return (
    <FieldInput
      field={setting(id)}
      value={content[id]}
      onChange={(value: FieldValue) => change({ [id]: value })}
      readOnly={!mayChange(id)}
      context={context}
      fault={faultOf(id)}
    />
  );
}

const AFTER_TYPING_MS = 300;

/** Where the page is found: after the page above, or an address of its own. Checked while it is typed. */
export function AddressPanel({ top, address, ...props }: PartProps & { top: boolean; address: string }) {
  const { page, content, change, mayChange } = props;
  const readOnly = !mayChange('page.slug') && !mayChange('page.ownAddress');
  const slug = textOf(content, 'page.slug');
  const own = textOf(content, 'page.ownAddress');
  const [told, setTold] = useState<{ address: string | null; fault: string | null; changes: number } | null>(null);
  const [ofItsOwn, setOfItsOwn] = useState(own !== '');
  useEffect(() => {
    if (readOnly || top) return undefined;
    let current = true;
    const timer = setTimeout(() => {
      void send('GET', `/api/pages/${page}/address?${new URLSearchParams({ slug, own }).toString()}`).then(
        (sent) => current && sent.ok && setTold(sent.value),
      );
    }, AFTER_TYPING_MS);
    return () => {
      current = false;
      clearTimeout(timer);
    };
  }, [page, slug, own, readOnly, top]);
  const wanted = slugFrom(textOf(content, 'title'));
  return (
    <Panel name="Address" value={told?.address ?? address} anchor="pages.edit.address">
      {top ? (
        <p>The first page of the website always has the address “/”.</p>
      ) : (
        <>
          <fieldset className="grid gap-1">
            <legend className="sr-only">Which address</legend>
            {[false, true].map((yes) => (
              <label key={String(yes)} className="flex min-h-[28px] items-center gap-2">
                <input
                  type="radio"
                  name="address-kind"
                  className="h-4 w-4 accent-pine"
                  disabled={!mayChange('page.ownAddress')}
                  checked={ofItsOwn === yes}
                  onChange={() => {
                    setOfItsOwn(yes);
                    change({ 'page.ownAddress': yes ? (told?.address ?? address) : '' });
                  }}
                />
                {yes ? 'One of its own' : 'After the page above'}
              </label>
            ))}
          </fieldset>
          {ofItsOwn ? <Setting id="page.ownAddress" {...props} /> : <Setting id="page.slug" {...props} />}
          {!ofItsOwn && mayChange('page.slug') && wanted !== '' && wanted !== slug && (
            <button
              type="button"
              className="btn btn-small justify-self-start"
              onClick={() => change({ 'page.slug': wanted })}
            >
              Take it from the title
            </button>
          )}
          <div role="status" className="text-sm">
            {told?.fault ? (
              <p className="note note-brick">{told.fault}</p>
            ) : (
              told && (
                <p className="clip text-ink-2">
                  It will be <strong>{told.address}</strong>.
                </p>
              )
            )}
          </div>
          {told !== null && told.changes > 0 && !told.fault && (
            <div className="note">
              <p>
                {told.changes === 1 ? 'This address changes' : `This and ${told.changes - 1} below it change`} when the
                page is published.
              </p>
              <Setting id="page.redirect" {...props} />
            </div>
          )}
        </>
      )}
    </Panel>
  );
}

export function NavigationPanel(props: PartProps) {
  const { content } = props;
  const shown = content['page.inNavigation'] !== false;
  const name = textOf(content, 'page.shortName') || textOf(content, 'title');
  return (
    <Panel name="Navigation" value={shown ? `Shown as “${name}”` : 'Not shown in menus'} anchor="pages.edit.navigation">
      <Setting id="page.inNavigation" {...props} />
      <Setting id="page.shortName" {...props} />
      <p className="hint">
        Its order among its neighbours is changed in the tree of pages, where everybody sees what it does.
      </p>
    </Panel>
  );
}

const [TITLE_SHOWN, TEXT_SHOWN] = [60, 160];
const counted = (text: string, most: number) => {
  const length = [...text].length;
  return `${length} characters${length > most ? `; about ${most} are shown, the rest is cut off` : ''}`;
};

/** The words search engines show, as they will look. Lengths as commonly shown (common practice, no source). */
export function ResultPanel({ address, site, ...props }: PartProps & { address: string; site: string }) {
  const { content } = props;
  const result = searchResultOf(content);
  return (
    <Panel
      name="Search result"
      value={result.text ? sayBegin(result.text, 70) : 'Nothing says what the page is about'}
      anchor="pages.edit.result"
    >
      <figure aria-label="How it will look" className="rounded-s border border-line bg-white p-3">
        <p className="clip text-sm text-ink-2">
          {site} › {address}
        </p>
        <p className="clip font-semibold text-sky" dir="auto">
          {sayBegin(result.title, TITLE_SHOWN)}
        </p>
        <p className="clip text-sm" dir="auto">
          {result.text ? sayBegin(result.text, TEXT_SHOWN) : 'No words: search engines take some from the page.'}
        </p>
      </figure>
      <Setting id="page.searchTitle" {...props} />
      <p className="hint -mt-2">{counted(result.title, TITLE_SHOWN)}</p>
      <Setting id="page.searchText" {...props} />
      <p className="hint -mt-2">{counted(result.text, TEXT_SHOWN)}</p>
    </Panel>
  );
}

/** Layout, author, date and language. */
export function AboutPanel({
  layouts,
  layoutIds,
  ...props
}: PartProps & { layouts: Layouts; /** Those they may give the page. */ layoutIds: readonly string[] }) {
  const { content, change, mayChange, context } = props;
  const layout = layouts.get(textOf(content, 'page.layout'));
  const { label = 'Layout', hint, lock } = useElement('page.layout');
  return (
    <Panel
      name="Layout, author, date"
      value={[layout?.name, context.people.find((person) => person.id === content['page.author'])?.name]
        .filter(Boolean)
        .join(' · ')}
      anchor="pages.edit.about"
    >
      <Labelled label={label} hint={hint ?? layout?.purpose} fault={props.faultOf('page.layout')}>
        {(ids) => (
          <select
            {...ids}
            className="field"
            disabled={!mayChange('page.layout')}
            value={layout?.id}
            onChange={(event) => change({ 'page.layout': event.target.value })}
          >
            {[...layouts.values()].map((choice) => (
              <option
                key={choice.id}
                value={choice.id}
                disabled={choice.id !== layout?.id && !layoutIds.includes(choice.id)}
              >
                {choice.name}
                {choice.id !== layout?.id && !layoutIds.includes(choice.id) && ' (not yours to give)'}
              </option>
            ))}
          </select>
        )}
      </Labelled>
      <LockNote reason={lock} />
      <p className="hint">
        Another layout has other fields. What has no place there is kept, and is there again when you come back.
      </p>
      <Setting id="page.author" {...props} />
      <Setting id="page.day" {...props} />
      <Setting id="page.language" {...props} />
    </Panel>
  );
}
