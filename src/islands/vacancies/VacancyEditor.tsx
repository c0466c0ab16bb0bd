import { vacancyLayouts } from '@/office/vacancies/layouts';
import { ItemEditor, type EditorProps } from '../editor/ItemEditor';

/** The edit screen of a vacancy. */
export function VacancyEditor(props: EditorProps) {
  return (
    <ItemEditor
      {...props}
      about={{ one: 'vacancy', screen: 'vacancies.edit' }}
      layouts={vacancyLayouts}
      settings={[]}
      previewHref={null}
    />
  );
}
