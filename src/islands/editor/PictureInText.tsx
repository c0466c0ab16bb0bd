import type { Editor } from '@tiptap/core';
import { useState } from 'react';
import { Dialog, Labelled } from '../kit/parts';
import { PictureDialog, type PictureChoice } from './PictureChooser';

const WIDTHS = [
  { id: 'full', name: 'As wide as the text' },
  { id: 'half', name: 'Half as wide' },
  { id: 'third', name: 'A third as wide' },
] as const;

/** Puts a picture into the text, or changes the one that is marked: which, what it shows, how wide. */
export default function PictureInText({
  editor,
  pictures,
  onClose,
}: {
  editor: Editor;
  pictures: PictureChoice[];
  onClose: () => void;
}) {
  const marked = editor.isActive('picture') ? editor.getAttributes('picture') : null;
  const [id, setId] = useState<string | null>(marked ? String(marked['id']) : null);
  const [description, setDescription] = useState(marked ? String(marked['description']) : '');
  const [width, setWidth] = useState(marked ? String(marked['width']) : 'full');
  const picture = pictures.find((choice) => choice.id === id);
  if (!picture)
    return (
      <PictureDialog
        title="Which picture?"
        value={id}
        pictures={pictures}
        onClose={onClose}
        onChoose={(choice) => {
          setId(choice.id);
          setDescription(choice.description);
        }}
      />
    );
  const put = () => {
    const attrs = { id: picture.id, description: description.trim(), width };
    if (marked) editor.chain().focus().updateAttributes('picture', attrs).run();
    else editor.chain().focus().insertContent({ type: 'picture', attrs }).run();
    onClose();
  };
  return (
    <Dialog open onClose={onClose} title={marked ? 'The picture in the text' : 'A picture in the text'}>
      <form
        className="grid gap-4"
        onSubmit={(event) => {
          event.preventDefault();
          put();
        }}
      >
        <div className="flex items-center gap-3">
          <img src={picture.url} alt="" className="aspect-[2/1] w-40 rounded-s border border-line object-cover" />
          <button type="button" className="btn btn-small" onClick={() => setId(null)}>
            Choose another
          </button>
        </div>
        <Labelled
          label="What does it show?"
          hint="For people who cannot see it. Leave it as it is if it fits here, too."
        >
          {(ids) => (
            <textarea
              {...ids}
              rows={2}
              maxLength={500}
              dir="auto"
              className="field"
              value={description}
              onChange={(event) => setDescription(event.target.value)}
            />
          )}
        </Labelled>
        <Labelled label="How wide?" hint="Never wider than its place; on a phone always as wide as the text.">
          {(ids) => (
            <select {...ids} className="field" value={width} onChange={(event) => setWidth(event.target.value)}>
              {WIDTHS.map((choice) => (
                <option key={choice.id} value={choice.id}>
                  {choice.name}
                </option>
              ))}
            </select>
          )}
        </Labelled>
        <button type="submit" className="btn btn-main justify-self-start">
          {marked ? 'Change it' : 'Put it in'}
        </button>
      </form>
    </Dialog>
  );
}
