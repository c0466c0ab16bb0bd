// Serves the built application: static files from dist/client, everything else through Astro.
// HOST, PORT and DATABASE_URL come from the environment. SIGTERM and SIGINT let requests finish, then exit 0.
import { createServer } from 'node:http';
import sirv from 'sirv';

// React renders several times faster without its development checks; it reads this once, when it is loaded.
process.env.NODE_ENV ??= 'production';
const { handler } = await import('../dist/server/entry.mjs');

const host = process.env.HOST ?? '127.0.0.1';
const port = Number(process.env.PORT ?? 4400);
const files = sirv('dist/client', { brotli: true, gzip: true, etag: true, setHeaders: (res, path) => res.setHeader('cache-control', path.startsWith('/_astro/') ? 'public, max-age=31536000, immutable' : 'no-cache') });
const server = createServer((req, res) => files(req, res, () => handler(req, res)));

server.on('error', (error) => {
  console.error(error.code === 'EADDRINUSE' ? `Port ${port} is taken by another program.` : error.message);
  process.exit(1);
});
server.listen(port, host, () => process.send?.('listening'));

// A file that went while the server runs (a new build in its place) spoils one answer, not the server.
process.on('uncaughtException', (error) => {
  console.error(error);
  if (!(error.code === 'ENOENT' && String(error.path).includes('dist/client'))) process.exit(1);
});

let ending = false;
for (const signal of ['SIGTERM', 'SIGINT'])
  process.on(signal, () => {
    if (ending) return;
    ending = true;
    server.close(() => process.exit(0));
    server.closeIdleConnections();
    setTimeout(() => { server.closeAllConnections(); }, 5000).unref();
  });
