import { useState, type AriaAttributes, type ChangeEvent } from 'react';
import { useLeft } from './useLeft';

interface Given extends AriaAttributes {
  id?: string;
  className: string;
  maxLength?: number;
  placeholder?: string | undefined;
  readOnly?: boolean;
  /** Left empty, it stays what it was. */
  required?: boolean;
  value: string;
  onCommit: (words: string) => void;
}

/**
 * A field of what is set as one goes, without a button: what was typed is set when the field is left, with Enter, or
 * when it goes from the screen, without the spaces around it. What the value becomes otherwise, by undo or by somebody
 * else, shows at once.
 */
export function CommitInput({
  value,
  onCommit,
  kind,
  ...given
}: Given & {
  /** Of how many lines, or a number between two others; otherwise one line of words. */
  kind?: { rows: number } | { min: number; max: number };
}) {
  const [words, setWords] = useState(value);
  const [last, setLast] = useState(value);
  if (last !== value) {
    setLast(value);
    if (words.trim() === last) setWords(value);
  }
  const commit = () => {
    if (given.required && words.trim() === '') setWords(value);
    else if (words.trim() !== value.trim()) onCommit(words.trim());
  };
  const leave = useLeft(commit);
  const props = {
    ...given,
    value: words,
    onBlur: leave,
    onChange: (event: ChangeEvent<HTMLInputElement | HTMLTextAreaElement>) => setWords(event.target.value),
  };
  if (kind && 'rows' in kind) return <textarea {...props} {...kind} />;
  return (
    <input
      {...props}
      {...(kind && { type: 'number', ...kind })}
      onKeyDown={(event) => event.key === 'Enter' && commit()}
    />
  );
}
