import { documentOf, plainText, textOf, entriesOf, piecesOf, type DocumentNode, type Field, type PageContent } from '@/core/content';

const paragraph = (text: string): DocumentNode => ({ type: 'paragraph', ...(text && { content: [{ type: 'text', text }] }) });

/** What a field says, as blocks of a text. */
function blocksOf(field: Field, content: PageContent): DocumentNode[] {
  if (field.kind === 'rich') return documentOf(content, field.id).content;
  if (field.kind === 'pieces') return piecesOf(content, field.id).flatMap((piece): DocumentNode[] => [...(piece.heading ? [{ type: 'heading' as const, attrs: { level: 2 }, content: [{ type: 'text' as const, text: piece.heading }] }] : []), ...piece.text.content]);
  if (field.kind === 'list') return entriesOf(content, field.id).map((entry) => paragraph(field.of.map((part) => entry[part.id] ?? '').filter(Boolean).join(' ')));
  return textOf(content, field.id).split('\n').filter(Boolean).map(paragraph);
}

/** Text of another layout that has no place in this one: kept, and offered back. */
export function KeptPanel({ fields, content, into, readOnly, onPutIn, onLetGo }: { fields: readonly Field[]; content: PageContent; /** The text it can be put into. */ into: string | null; readOnly: boolean; onPutIn: (field: Field, blocks: DocumentNode[]) => void; onLetGo: (field: Field) => void }) {
  return (
    <section aria-label="Kept from another layout" className="note grid gap-3">
      <p>
        <strong>Kept from another layout.</strong> This layout has no place for it, so visitors do not see it. It is there again when you switch back.
      </p>
      {fields.map((field) => {
        const blocks = blocksOf(field, content);
        const words = blocks.map((block) => plainText(block)).join(' ').trim();
        return (
          <div key={field.id} className="card grid gap-2">
            <p className="clip">
              <strong>{field.name}:</strong> <span dir="auto">{words ? `${words.slice(0, 160)}${words.length > 160 ? '…' : ''}` : 'something that is no text'}</span>
            </p>
            {!readOnly && (
              <div className="flex flex-wrap gap-2">
                {into !== null && words !== '' && (
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
