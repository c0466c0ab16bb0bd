import type { Editor } from '@tiptap/core';
import { useState } from 'react';
import { Dialog, Labelled } from '../kit/parts';
import { WhenField } from '../kit/when/WhenField';

/** Makes the lines marked an alert that ends by itself, changes its last day, or makes them plain again. */
export default function AlertDialog({ editor, onClose }: { editor: Editor; onClose: () => void }) {
  const isOn = editor.isActive('alert');
  const [until, setUntil] = useState(String(editor.getAttributes('alert')['until'] ?? ''));
  const put = () => {
    const attrs = { until: until || null };
    if (isOn) editor.chain().focus().updateAttributes('alert', attrs).run();
    else editor.chain().focus().wrapIn('alert', attrs).run();
    onClose();
  };
  return (
    <Dialog open onClose={onClose} title="An alert for now">
      <form
        className="grid gap-4"
        onSubmit={(event) => {
          event.preventDefault();
          put();
        }}
      >
        <p>For what is only true for a while. For what shall always stand out use a highlight.</p>
        <Labelled
          label="Last day"
          hint="After it visitors do not see the alert any more. Empty: until somebody takes it out."
        >
          {(ids) => <WhenField {...ids} kind="day" value={until} onChange={setUntil} />}
        </Labelled>
        <div className="flex flex-wrap gap-2">
          <button type="submit" className="btn btn-main">
            {isOn ? 'Change it' : 'Make it an alert'}
          </button>
          {isOn && (
            <button
              type="button"
              className="btn btn-stop"
              onClick={() => {
                editor.chain().focus().lift('alert').run();
                onClose();
              }}
            >
              Make it plain text
            </button>
          )}
        </div>
      </form>
    </Dialog>
  );
}
