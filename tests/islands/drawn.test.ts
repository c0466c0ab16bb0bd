import { createElement, useId, type ReactElement, type ReactNode } from 'react';
import { renderToReadableStream } from 'react-dom/server.edge';
import { describe, expect, it } from 'vitest';
import { Icon } from '@/islands/kit/Icon';
import renderer from '@/layouts/islands';

const Named = ({ name, children }: { name: string; children?: ReactNode }) => {
  const id = useId();
  return createElement('p', { id }, name, ' & ', children);
};
const draw = (screen: object, component: unknown, props: object, slots = {}, metadata?: object) =>
  renderer.renderToStaticMarkup.call({ result: screen } as never, component, props, slots, metadata as never);

describe('React’s parts of a screen, on the server', () => {
  it('are drawn as React’s own stream draws them, each with ids of its own', async () => {
    const screen = {};
    const parts: ReactElement[] = [
      createElement(Icon, { name: 'door', size: 15 }),
      createElement(Named, { name: 'Tide <tables>' }),
      createElement(Named, { name: 'Tide <tables>' }),
    ];
    for (const [number, part] of parts.entries()) {
      const stream = await renderToReadableStream(part, { identifierPrefix: `r${number}` });
      const { html, attrs } = await draw(screen, part.type, part.props as object);
      expect(html).toBe(await new Response(stream).text());
      // By it the browser finds the same ids.
      expect(attrs).toEqual({ prefix: `r${number}` });
    }
    // Another screen begins anew.
    expect((await draw({}, Named, { name: 'Fares' })).attrs).toEqual({ prefix: 'r0' });
  });
  it('hold what Astro drew in them as it is, where the browser’s scripts look for it', async () => {
    const slots = { default: '<b>Drawn</b> before' };
    const drawn = async (metadata?: object) => (await draw({}, Named, { name: 'Fares' }, slots, metadata)).html;
    expect(await drawn()).toContain(' &amp; <astro-static-slot><b>Drawn</b> before</astro-static-slot>');
    expect(await drawn({ hydrate: 'load' })).toContain('<astro-slot><b>Drawn</b> before</astro-slot>');
  });
  it('are all that Astro asks about: what is no component is none', async () => {
    expect(await Promise.all([Icon, 'p', undefined].map((one) => renderer.check(one as never, {}, {})))).toEqual([
      true,
      false,
      false,
    ]);
  });
});
