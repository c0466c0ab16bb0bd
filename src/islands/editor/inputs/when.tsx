import { textOf, type FieldOf } from '@/core/content';
import { WhenField } from '../../kit/when/WhenField';
import { asContent, Shell, type FieldProps } from './input';

/** A day, or a day with its hour. */
export function WhenInput(props: FieldProps<FieldOf<'day' | 'moment'>>) {
  const { field, readOnly, onChange } = props;
  return (
    <Shell of={props}>
      {(ids) => (
        <WhenField
          {...ids}
          kind={field.kind}
          past
          readOnly={readOnly}
          value={textOf(asContent(props), field.id)}
          onChange={onChange}
        />
      )}
    </Shell>
  );
}
