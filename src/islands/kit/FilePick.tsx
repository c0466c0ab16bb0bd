import { useState } from 'react';
import { Labelled } from './parts';

/** Takes a text file, or text pasted in its place. */
export function FilePick({
  label,
  hint,
  accept,
  text,
  onText,
  rows = 6,
}: {
  label: string;
  hint: string;
  accept: string;
  text: string;
  onText: (text: string) => void;
  rows?: number;
}) {
  const [name, setName] = useState<string | null>(null);
  return (
    <div className="grid gap-3">
      <Labelled label={label} hint={hint}>
        {(ids) => (
          <input
            {...ids}
            type="file"
            accept={accept}
            className="field file:mr-3 file:rounded-s file:border file:border-line-2 file:bg-sheet file:px-3 file:py-1 file:font-semibold"
            onChange={(event) => {
              const file = event.target.files?.[0];
              setName(file?.name ?? null);
              if (file) void file.text().then(onText);
            }}
          />
        )}
      </Labelled>
      <Labelled label={name ? `What stands in ${name}` : 'Or paste it here'}>
        {(ids) => (
          <textarea
            {...ids}
            rows={rows}
            spellCheck={false}
            className="field font-mono text-sm"
            value={text}
            onChange={(event) => onText(event.target.value)}
          />
        )}
      </Labelled>
    </div>
  );
}
