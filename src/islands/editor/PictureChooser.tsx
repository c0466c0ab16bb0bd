import { useState } from 'react';
import { Dialog } from '../kit/parts';

export interface PictureChoice {
  id: string;
  name: string;
  description: string;
  url: string;
  /** It belongs to the part of the website one is in. */
  ofPart?: boolean;
}

/** Every picture of the website to choose from, with its name and what it shows. */
export function PictureDialog({
  title,
  value,
  pictures,
  onChoose,
  onClose,
}: {
  title: string;
  value: string | null;
  pictures: PictureChoice[];
  onChoose: (picture: PictureChoice) => void;
  onClose: () => void;
}) {
  return (
    <Dialog open onClose={onClose} title={title} wide>
      <ul className="grid grid-cols-2 gap-3 md:grid-cols-3">
        {pictures.map((picture) => (
          <li key={picture.id}>
            <button
              type="button"
              aria-pressed={picture.id === value}
              className={`w-full overflow-hidden rounded-s border text-left hover:border-pine ${picture.id === value ? 'border-pine bg-pine-soft' : 'border-line bg-sheet'}`}
              onClick={() => onChoose(picture)}
            >
              <img src={picture.url} alt="" className="aspect-[2/1] w-full object-cover" />
              <span className="block p-2">
                <span className="clip block font-semibold">{picture.name}</span>
                <span className="clip block text-sm text-ink-2">{picture.description}</span>
              </span>
            </button>
          </li>
        ))}
      </ul>
      {pictures.length === 0 && <p>There are no pictures yet.</p>}
    </Dialog>
  );
}

/** A picture field: what is chosen, another, or none. */
export function PictureChooser({
  label,
  value,
  pictures,
  readOnly,
  onChange,
  small,
}: {
  label: string;
  value: string | null;
  pictures: PictureChoice[];
  readOnly: boolean;
  onChange: (id: string | null) => void;
  small?: boolean;
}) {
  const [open, setOpen] = useState(false);
  const chosen = pictures.find((p) => p.id === value);
  return (
    <div className={small ? 'flex flex-wrap items-center gap-3' : ''}>
      {chosen ? (
        <div className={small ? 'flex items-center gap-3' : ''}>
          <img
            src={chosen.url}
            alt={chosen.description}
            className={`aspect-[2/1] rounded-s border border-line object-cover ${small ? 'w-24' : 'w-full'}`}
          />
          <p className="clip mt-1 text-sm text-ink-2">
            “{chosen.name}” · {chosen.description ? 'described' : 'not described yet'}
          </p>
        </div>
      ) : (
        <p className="text-ink-2">{small ? `${label}: none` : 'No picture. The page begins with its title.'}</p>
      )}
      {!readOnly && (
        <div className={`flex flex-wrap gap-2 ${small ? '' : 'mt-2'}`}>
          <button type="button" className="btn btn-small" onClick={() => setOpen(true)}>
            {chosen ? 'Choose another' : 'Choose a picture'}
          </button>
          {chosen && (
            <button type="button" className="btn btn-quiet btn-small" onClick={() => onChange(null)}>
              No picture
            </button>
          )}
        </div>
      )}
      {open && (
        <PictureDialog
          title={`Choose: ${label.toLowerCase()}`}
          value={value}
          pictures={pictures}
          onClose={() => setOpen(false)}
          onChoose={(picture) => {
            onChange(picture.id);
            setOpen(false);
          }}
        />
      )}
    </div>
  );
}
