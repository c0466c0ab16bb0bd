import { useState } from 'react';
import { asHref, LINK_GONE, linkOf, thingOf, type FieldOf } from '@/core/content';
import { later } from '../kit/later';
import { Icon } from '../kit/Icon';
import { Labelled, Dialog } from '../kit/parts';
import { asContent, type FieldProps } from './inputs/input';

// Fetched when a page is chosen.
const PageTargets = later(() => import('./PageTargets'), <p role="status">Looking…</p>);

/** Where a link leads and its words; a page is chosen, all else typed. */
export function LinkInput(props: FieldProps<FieldOf<'link'>>) {
  const { field, onChange, readOnly, fault } = props;
  const value = linkOf(asContent(props), field.id);
  const [choosing, setChoosing] = useState(false);
  const kept = value?.href ?? '';
  // What is there goes by its address here.
  const gone = thingOf(kept) !== undefined;
  const shown = gone ? '' : kept;
  const set = (part: { href?: string; words?: string }) => {
    const next = { href: kept, words: value?.words ?? '', ...part };
    onChange(next.href === '' && next.words === '' ? null : next);
  };
  return (
    <fieldset className="grid gap-2 rounded-s border border-line p-3 sm:grid-cols-2">
      <legend className="label px-1">{field.name}</legend>
      <Labelled
        label="Leads to"
        hint="A page (/fares), a web address, a mail address or a telephone number."
        fault={fault ?? (gone ? LINK_GONE : undefined)}
      >
        {(ids) => (
          <input
            {...ids}
            className="field"
            readOnly={readOnly}
            value={shown}
            onChange={(event) => set({ href: event.target.value })}
            onBlur={(event) => {
              const href = asHref(event.target.value);
              if (href !== shown) set({ href });
            }}
          />
        )}
      </Labelled>
      <Labelled label="Words to press">
        {(ids) => (
          <input
            {...ids}
            className="field"
            dir="auto"
            readOnly={readOnly}
            value={value?.words ?? ''}
            onChange={(event) => set({ words: event.target.value })}
          />
        )}
      </Labelled>
      {!readOnly && (
        <button type="button" className="btn btn-small justify-self-start" onClick={() => setChoosing(true)}>
          <Icon name="tree" size={15} /> Choose a page<span className="sr-only"> for {field.name}</span>
        </button>
      )}
      {choosing && (
        <Dialog open onClose={() => setChoosing(false)} title={`${field.name}: which page?`}>
          <PageTargets
            href={shown}
            onChoose={(href) => {
              set({ href });
              setChoosing(false);
            }}
          />
        </Dialog>
      )}
    </fieldset>
  );
}
