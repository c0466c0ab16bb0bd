// @ts-check
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

export default defineConfig({
  output: 'server',
  adapter: node({ mode: 'middleware' }),
  integrations: [quickReact()],
  devToolbar: { enabled: false },
  trailingSlash: 'ignore',
  experimental: { csp: { algorithm: 'SHA-256' } },
  vite: {
    plugins: [tailwindcss()],
    resolve: { alias: { '@': fileURLToPath(new URL('./src', import.meta.url)) } },
    // A screen asks for some thirty files of scripts instead of fifty: each costs a slow machine more than its letters.
    build: { assetsInlineLimit: 0, rollupOptions: { output: { experimentalMinChunkSize: 40_000 } } },
    // It starts a file of its own as a worker.
    ssr: { external: ['piscina'] },
  },
});
