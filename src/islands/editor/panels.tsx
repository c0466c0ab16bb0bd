import { sayTime, type Calendar } from '@/core/words';
import { happened } from '../kit/happened';
import { Icon, type IconName } from '../kit/Icon';
import { LockNote, useElement } from './elements';
import { FieldInput } from './FieldInput';
import type { FieldProps } from './inputs/input';
import { PictureChooser } from './PictureChooser';
import type { DraftState } from './model';

/** Whether the draft is kept, in words and by mark. */
export function DraftMark({ state, calendar }: { state: DraftState; calendar: Calendar }) {
  const [look, icon, words] = ((): [string, IconName, string] => {
    switch (state.status) {
      case 'untouched':
        return ['pill-plain', 'check', 'No draft'];
      case 'typing':
        return ['pill-sun', 'draft', 'Typing…'];
      case 'saving':
        return ['pill-sun', 'clock', 'Keeping…'];
      case 'kept':
        return ['pill-sun', 'draft', `Draft kept ${sayTime(new Date(state.at), calendar, new Date())}`];
      case 'trial':
        return ['pill-sky', 'eye', 'Trial: not kept'];
      case 'offline':
        return ['pill-brick', 'warn', 'Kept in this browser only'];
      case 'signed-out':
        return ['pill-brick', 'warn', 'Signed out, kept in this browser'];
      case 'conflict':
        return ['pill-brick', 'warn', 'Two versions'];
      case 'refused':
        return ['pill-brick', 'warn', 'Not kept'];
    }
  })();
  return (
    <span className={`pill ${look} min-h-[28px]`} role="status" data-draft={state.status}>
      <Icon name={icon} size={15} /> {words}
    </span>
  );
}

/** A field that is filled in in a panel beside the others. */
export function FieldPanel({ panel, ...of }: FieldProps & { panel: string }) {
  const { field, value, readOnly, context, onChange } = of;
  const { label = field.name, hint = field.hint, lock } = useElement(panel);
  return (
    <section className="card" aria-label={label} data-anchor={panel}>
      <h2 className="mb-2 text-base">{label}</h2>
      {field.kind === 'picture' ? (
        <>
          {hint && <p className="hint mb-2">{hint}</p>}
          <LockNote reason={lock} />
          <PictureChooser
            label={label}
            value={typeof value === 'string' && value !== '' ? value : null}
            pictures={[...(context.pictures ?? [])]}
            readOnly={readOnly || lock !== undefined}
            onChange={(id) => {
              onChange(id);
              if (id !== null) happened('picture.chosen');
            }}
          />
        </>
      ) : (
        <>
          <FieldInput {...of} field={{ ...field, ...(hint && { hint }) }} readOnly={readOnly || lock !== undefined} />
          <LockNote reason={lock} />
        </>
      )}
    </section>
  );
}
