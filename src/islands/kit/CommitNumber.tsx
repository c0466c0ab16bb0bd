import { useState } from 'react';
import { CommitInput } from './CommitInput';
import { Labelled } from './parts';

/** A whole number that is set as one goes; one that does not fit is told and stays where it was typed. */
export function CommitNumber({
  label,
  min,
  max,
  placeholder,
  value,
  onCommit,
}: {
  label: string;
  min: number;
  max: number;
  placeholder?: string;
  value: number | undefined;
  onCommit: (value: number | undefined) => void;
}) {
  const [fault, setFault] = useState<string>();
  return (
    <Labelled label={label} fault={fault}>
      {(ids) => (
        <CommitInput
          {...ids}
          className="field w-32"
          placeholder={placeholder}
          kind={{ min, max }}
          value={String(value ?? '')}
          onCommit={(words) => {
            const next = Number(words);
            const fits = words === '' || (Number.isInteger(next) && next >= min && next <= max);
            setFault(fits ? undefined : `A whole number from ${min} to ${max}, please. It is set when it fits.`);
            if (fits) onCommit(words === '' ? undefined : next);
          }}
        />
      )}
    </Labelled>
  );
}
