// Serves the built application: static files from dist/client, everything else through Astro.
// HOST, PORT, DATABASE_URL, ORIGIN and TRUSTED_PROXIES come from the environment. SIGTERM and SIGINT let requests
// finish, then exit 0.
import { createServer } from 'node:http';
import { BlockList, isIP } from 'node:net';
import sirv from 'sirv';

// React renders several times faster without its development checks; it reads this once, when it is loaded.
process.env.NODE_ENV ??= 'production';
const { handler } = await import('../dist/server/entry.mjs');

const host = process.env.HOST ?? '127.0.0.1';
const port = Number(process.env.PORT ?? 4400);
const files = sirv('dist/client', {
  brotli: true,
  gzip: true,
  etag: true,
  setHeaders: (res, path) =>
    res.setHeader('cache-control', path.startsWith('/_astro/') ? 'public, max-age=31536000, immutable' : 'no-cache'),
});

/** Proxies whose word on who asks is believed: addresses or networks (10.0.0.0/8), parted by commas. */
const proxies = new BlockList();
for (const one of (process.env.TRUSTED_PROXIES ?? '')
  .split(',')
  .map((part) => part.trim())
  .filter(Boolean)) {
  const [address, bits] = one.split('/');
  const family = isIP(address) === 6 ? 'ipv6' : 'ipv4';
  if (bits === undefined) proxies.addAddress(address, family);
  else proxies.addSubnet(address, Number(bits), family);
}
const isProxy = (address) => isIP(address) !== 0 && proxies.check(address, isIP(address) === 6 ? 'ipv6' : 'ipv4');

/**
 * Who really asks: the last address on the way that is none of the trusted proxies. What others say of themselves is
 * taken out.
 */
function settleAddress(req) {
  const peer = (req.socket.remoteAddress ?? '').replace(/^::ffff:/, '');
  const told = isProxy(peer)
    ? String(req.headers['x-forwarded-for'] ?? '')
        .split(',')
        .map((part) => part.trim())
        .filter((part) => isIP(part) !== 0)
    : [];
  const address = [...told, peer].reverse().find((one) => !isProxy(one)) ?? peer;
  for (const name of Object.keys(req.headers))
    if (name === 'forwarded' || name.startsWith('x-forwarded-') || name === 'x-real-ip') delete req.headers[name];
  Object.defineProperty(req.socket, 'remoteAddress', { value: address, configurable: true });
}

/** A body nobody wants is not read for ever. */
const UNREAD_BYTES = 1_000_000;
function dropUnread(req) {
  if (req.complete) return;
  let left = UNREAD_BYTES;
  req.on('data', (chunk) => {
    left -= chunk.length;
    if (left < 0) req.destroy();
  });
  req.resume();
}

const server = createServer((req, res) => {
  settleAddress(req);
  res.once('finish', () => dropUnread(req));
  files(req, res, () => handler(req, res));
});

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
    setTimeout(() => {
      server.closeAllConnections();
    }, 5000).unref();
  });
