import { createElement, type ComponentType } from 'react';
import { renderToString } from 'react-dom/server';
import type { AstroComponentMetadata, NamedSSRLoadedRendererValue } from 'astro';

/** How many parts of a screen were drawn so far: each gets ids of its own. */
const drawn = new WeakMap<object, number>();

/** What Astro drew, as a child of a component: kept as it is. `hydrated`: the browser's scripts look for it there. */
const Drawn = ({ html, hydrated }: { html: string; hydrated: boolean }) =>
  createElement(hydrated ? 'astro-slot' : 'astro-static-slot', {
    suppressHydrationWarning: true,
    dangerouslySetInnerHTML: { __html: html },
  });

/**
 * Draws React's parts of a screen. The renderer of `@astrojs/react` makes two streams for each of them, one only to see
 * whether it is React's; all of ours are, and none waits for anything. On Today that was a fifth of the server's time.
 */
const renderer: NamedSSRLoadedRendererValue = {
  name: '@astrojs/react',
  supportsAstroStaticSlot: true,
  check: (component: unknown) => Promise.resolve(typeof component === 'function'),
  renderToStaticMarkup(
    this: { result: object },
    component: ComponentType<object>,
    props: object,
    slots: Record<string, string>,
    metadata: AstroComponentMetadata | undefined,
  ) {
    const number = drawn.get(this.result) ?? 0;
    drawn.set(this.result, number + 1);
    const prefix = `r${number}`;
    const { default: html } = slots;
    const children = html && createElement(Drawn, { html, hydrated: Boolean(metadata?.hydrate) });
    const drawnNow = renderToString(createElement(component, props, children), { identifierPrefix: prefix });
    return Promise.resolve({ html: drawnNow, attrs: { prefix } });
  },
};
export default renderer;
