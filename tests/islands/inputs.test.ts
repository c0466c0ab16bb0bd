import { createElement } from 'react';
import { renderToStaticMarkup } from 'react-dom/server';
import { parse } from 'parse5';
import { describe, expect, it } from 'vitest';
import { FIELD_KINDS, kindOfField, type FieldKindId } from '@/core/content';
import { FieldInput } from '@/islands/editor/FieldInput';
import { FieldPanel } from '@/islands/editor/panels';

const kinds = Object.keys(FIELD_KINDS) as FieldKindId[];
const text = (html: string): string => {
  const visit = (node: object): string =>
    ('value' in node && typeof node.value === 'string' ? node.value : '') +
    ('childNodes' in node ? (node.childNodes as object[]).map(visit).join('') : '');
  return visit(parse(html));
};

describe.each(kinds)('a field of the kind %s', (id) => {
  const { samples } = FIELD_KINDS[id];
  const field = { ...samples.field, hint: 'As it says on the quay.' };
  const [value] = samples.says;
  const props = {
    field,
    value,
    onChange: () => undefined,
    readOnly: false,
    context: {
      people: [{ id: '7', name: 'Ana Lund' }],
      pictures: [{ id: '7', name: 'Quay', description: 'The quay at noon', url: '/media/7' }],
    },
    fault: 'It does not fit.',
  };
  const drawn = renderToStaticMarkup(createElement(FieldInput, props));

  it('is filled in by its name, or in an area of its own where it holds texts', () => {
    if (kindOfField(field).texts) expect(drawn).toBe('');
    else expect(text(drawn)).toContain(field.name);
  });
  it('says what it holds, with what is wrong', () => {
    if (kindOfField(field).texts || id === 'yes') return;
    // What is chosen or typed stands in its input: days in an order of their own.
    const said = { picture: 'Quay', person: 'Ana Lund', day: '', moment: '' }[id as string];
    const holds =
      said ??
      JSON.stringify(value)
        .replaceAll('\\n', ' ')
        .match(/[A-Za-z0-9+]{2,}|\d/g)
        ?.at(-1) ??
      '';
    expect(drawn).toContain(holds);
    if (id !== 'link') expect(text(drawn)).toContain('It does not fit.');
  });
  it('is filled in in a panel, too', () => {
    if (kindOfField(field).texts) return;
    const inPanel = renderToStaticMarkup(createElement(FieldPanel, { ...props, panel: 'thing.edit.own' }));
    expect(inPanel).toContain('data-anchor="thing.edit.own"');
    expect(text(inPanel)).toContain(field.name);
    expect(inPanel).toMatch(/<(input|select|textarea|button)/);
  });
});
