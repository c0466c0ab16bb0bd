import { ItemEditor } from '../editor/ItemEditor';
import type { EditorProps } from '../editor/props';

/** The edit screen of a vacancy. */
export function VacancyEditor(props: EditorProps) {
  return <ItemEditor {...props} previewHref={null} />;
}
