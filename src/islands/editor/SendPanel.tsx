import { useAbout } from './about';
import { useElement } from './elements';
import { FieldInput } from './FieldInput';

/** What goes with a draft that is sent: a word about it, and whom it is for. */
export function SendPanel({
  note,
  onNote,
  noteRequired,
  reviewers,
  askedOf,
  onAskedOf,
  people,
  faultOf,
}: {
  note: string;
  onNote: (note: string) => void;
  noteRequired: boolean;
  /** Who may give the second look. */
  reviewers: { id: string; name: string }[];
  /** A reviewer's id; empty for whoever comes first. */
  askedOf: string;
  onAskedOf: (id: string) => void;
  people: { id: string; name: string }[];
  faultOf: (field: string) => string | undefined;
}) {
  const { anchor } = useAbout();
  const { label, hint, required } = useElement(anchor('note'));
  return (
    <section className="card grid gap-3" data-anchor={anchor('note')}>
      <FieldInput
        field={{
          id: 'note',
          kind: 'long',
          name: label ?? 'What did you change?',
          hint:
            hint ??
            (noteRequired || required
              ? 'One sentence; it is asked for.'
              : 'One sentence for whoever gives the second look.'),
          max: 500,
        }}
        value={note}
        onChange={(value) => onNote(typeof value === 'string' ? value : '')}
        readOnly={false}
        context={{ people }}
        fault={faultOf('note')}
      />
      {reviewers.length > 1 && (
        <FieldInput
          field={{
            id: 'askedOf',
            kind: 'choice',
            name: 'Who shall look at it?',
            options: [{ id: '', name: 'Whoever comes first' }, ...reviewers],
          }}
          value={askedOf || null}
          onChange={(value) => onAskedOf(typeof value === 'string' ? value : '')}
          readOnly={false}
          context={{ people }}
          fault={faultOf('askedOf')}
        />
      )}
    </section>
  );
}
