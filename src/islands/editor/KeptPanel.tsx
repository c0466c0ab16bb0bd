import { kindOfField, plainText, type DocumentNode, type Field, type IdNames, type PageContent } from '@/core/content';
import type { Tool } from '@/core/inventory';
import { plainOut } from '@/core/toolbar';
import { sayBegin } from '@/core/words';
import type { PictureChoice } from './PictureChooser';

/**
 * What a field says, as somebody would write it in a text: words as they are, a picture as one, anything else after its
 * name.
 */
function blocksOf(
  field: Field,
  content: PageContent,
  names: IdNames,
  pictures: readonly PictureChoice[],
): DocumentNode[] {
  const picture = (id: string | null): DocumentNode[] => {
    const found = pictures.find((one) => one.id === id);
    return found ? [{ type: 'picture', attrs: { id: found.id, description: found.description, width: 'full' } }] : [];
  };
  const { asBlocks, say } = kindOfField(field);
  if (asBlocks) return asBlocks(field, content, picture);
  const said = say(field, content, names).join(', ');
  return said === '' ? [] : [{ type: 'paragraph', content: [{ type: 'text', text: `${field.name}: ${said}` }] }];
}

/** Text of another layout that has no place in this one: kept, and offered back. */
export function KeptPanel({
  fields,
  content,
  into,
  readOnly,
  onPutIn,
  onLetGo,
  allowed,
  allTools,
  names,
  pictures,
}: {
  fields: readonly Field[];
  content: PageContent;
  /** The text it can be put into. */ into: string | null;
  readOnly: boolean;
  onPutIn: (field: Field, blocks: DocumentNode[]) => void;
  onLetGo: (field: Field) => void;
  /** Tools somebody has: what the others make becomes plain words. */ allowed: ReadonlySet<string>;
  allTools: readonly Tool[];
  names: IdNames;
  pictures: readonly PictureChoice[];
}) {
  return (
    <section aria-label="Kept from another layout" className="note grid gap-3">
      <p>
        <strong>Kept from another layout.</strong> This layout has no place for it, so visitors do not see it. It is
        there again when you switch back.
      </p>
      {fields.map((field) => {
        const all = blocksOf(field, content, names, pictures);
        const blocks = plainOut(allowed, allTools, all).nodes;
        // What stands in the text after its name stands here beside it.
        const words = blocks
          .map((block) => plainText(block))
          .join(' ')
          .trim()
          .replace(`${field.name}: `, '');
        return (
          <div key={field.id} className="card grid gap-2">
            <p className="clip">
              <strong>{field.name}:</strong>{' '}
              <span dir="auto">
                {words
                  ? sayBegin(words, 160)
                  : all.some((block) => block.type === 'picture')
                    ? 'a picture'
                    : 'nothing that could be read'}
              </span>
            </p>
            {!readOnly && (
              <div className="flex flex-wrap gap-2">
                {into !== null && blocks.length > 0 && (
                  <button type="button" className="btn btn-small" onClick={() => onPutIn(field, blocks)}>
                    Put it at the end of “{into}”<span className="sr-only">: {field.name}</span>
                  </button>
                )}
                <button type="button" className="btn btn-quiet btn-small" onClick={() => onLetGo(field)}>
                  Do without it<span className="sr-only">: {field.name}</span>
                </button>
              </div>
            )}
          </div>
        );
      })}
    </section>
  );
}
