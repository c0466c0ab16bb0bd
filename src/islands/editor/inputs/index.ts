import type { ComponentType } from 'react';
import type { Field, FieldKindId, FieldOf } from '@/core/content';
import { LinkInput } from '../LinkInput';
import { ListInput } from '../ListInput';
import { ChoiceInput, PersonInput, PictureInput, YesInput } from './chosen';
import type { FieldProps } from './input';
import { NumberInput } from './number';
import { TelephoneInput } from './telephone';
import { WhenInput } from './when';
import { WordsInput } from './words';

/** How each kind of field is filled in; null for what is written in an area of its own (`Fields.tsx`). */
const FIELD_INPUTS = {
  short: WordsInput,
  long: WordsInput,
  rich: null,
  picture: PictureInput,
  choice: ChoiceInput,
  day: WhenInput,
  moment: WhenInput,
  number: NumberInput,
  yes: YesInput,
  link: LinkInput,
  person: PersonInput,
  list: ListInput,
  pieces: null,
  telephone: TelephoneInput,
} satisfies { [K in FieldKindId]: ComponentType<FieldProps<FieldOf<K>>> | null };

export const inputOf = (field: Field): ComponentType<FieldProps> | null =>
  FIELD_INPUTS[field.kind] as ComponentType<FieldProps> | null;
