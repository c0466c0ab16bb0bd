// @ts-check
import { readFileSync } from 'node:fs';
import { fileURLToPath } from 'node:url';
import { defineConfig } from 'astro/config';
import node from '@astrojs/node';
import react from '@astrojs/react';
import tailwindcss from '@tailwindcss/vite';

/**
 * React's integration, with a quicker way of drawing on the server.
 *
 * @returns {import('astro').AstroIntegration}
 */
function quickReact() {
  const { name, hooks } = react();
  return {
    name,
    hooks: {
      ...hooks,
      'astro:config:setup': (options) =>
        hooks['astro:config:setup']?.({
          ...options,
          addRenderer: (renderer) =>
            options.addRenderer({
              ...renderer,
              serverEntrypoint: fileURLToPath(new URL('./src/layouts/islands.ts', import.meta.url)),
            }),
        }),
    },
  };
}

/**
 * Puts our own helper, which may fail and be asked again, in the place of the one every import() of a script goes
 * through.
 *
 * @type {import('vite').Plugin}
 */
const preloading = {
  name: 'preloading',
  enforce: 'pre',
  load: (id) =>
    id === '\0vite/preload-helper.js'
      ? readFileSync(new URL('./src/islands/kit/preload.js', import.meta.url), 'utf8')
      : undefined,
};

/**
 * Scripts that are wanted together, each group with all it needs, so that a screen asks for few files and for little it
 * has no use for: what every screen of the Room has around it, what holds contents, what compares them. The rest is cut
 * by where it is used.
 *
 * @type {[string, RegExp][]}
 */
const TOGETHER = [
  ['react', /node_modules\/(react|react-dom|scheduler|@astrojs\/react)\//],
  ['frame', /node_modules\/(@radix-ui|@floating-ui|downshift|react-remove-scroll|aria-hidden|use-sidecar)\//],
  ['frame', /islands\/(frame\/(Ask|OwnMenu|PersonMenu)|tour\/|kit\/(parts|Icon|iconNames|send|useKept))/],
  ['frame', /core\/(json|words)\//],
  ['content', /core\/content\/(document|settings|values|layout)/],
  ['compare', /core\/content\/compare|node_modules\/diff\//],
];
const manualChunks = (/** @type {string} */ id) => TOGETHER.find(([, pattern]) => pattern.test(id))?.[0];

export default defineConfig({
  output: 'server',
  adapter: node({ mode: 'middleware' }),
  integrations: [quickReact()],
  devToolbar: { enabled: false },
  trailingSlash: 'ignore',
  experimental: { csp: { algorithm: 'SHA-256' } },
  vite: {
    plugins: [preloading, tailwindcss()],
    resolve: { alias: { '@': fileURLToPath(new URL('./src', import.meta.url)) } },
    build: { assetsInlineLimit: 0, rollupOptions: { output: { experimentalMinChunkSize: 1_000, manualChunks } } },
    // It starts a file of its own as a worker.
    ssr: { external: ['piscina'] },
  },
});
