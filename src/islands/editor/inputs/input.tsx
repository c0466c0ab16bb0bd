import type { ReactNode } from 'react';
import type { Field, FieldValue, PageContent } from '@/core/content';
import { Labelled } from '../../kit/parts';
import type { PictureChoice } from '../PictureChooser';

export interface FieldContext {
  people: readonly { id: string; name: string }[];
  /** Who chooses, where that makes a difference. */
  me?: string;
  /** What there is to choose from in a field for a picture. */
  pictures?: readonly PictureChoice[];
}
export interface FieldProps<F extends Field = Field> {
  field: F;
  value: FieldValue | undefined;
  onChange: (value: FieldValue) => void;
  readOnly: boolean;
  context: FieldContext;
  fault?: string | undefined;
  anchor?: string;
  big?: boolean;
}

/** What a field says, as a content of it alone. */
export const asContent = ({ field, value }: FieldProps): PageContent => ({ [field.id]: value ?? null });

/** Label, hint and what is wrong around an input. */
export function Shell({
  of: { field, fault, anchor },
  hint = field.hint,
  wrong = fault,
  children,
}: {
  of: FieldProps;
  hint?: string | undefined;
  wrong?: string | undefined;
  children: (ids: { id: string; 'aria-describedby'?: string; 'aria-invalid'?: true }) => ReactNode;
}) {
  const label = `${field.name}${field.required && field.id !== 'title' ? ' (needed)' : ''}`;
  return (
    <Labelled label={label} hint={hint} fault={wrong} {...(anchor && { anchor })}>
      {children}
    </Labelled>
  );
}
