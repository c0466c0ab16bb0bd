// Bundles the worker that compares texts, and writes .br and .gz beside every text file of the client build, so that
// the server only has to send them.
import { readdirSync, readFileSync, statSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { buildSync } from 'esbuild';
import { brotliCompressSync, gzipSync } from 'node:zlib';

buildSync({
  entryPoints: ['src/server/work/worker.ts'],
  outfile: 'dist/worker.mjs',
  bundle: true,
  platform: 'node',
  format: 'esm',
  target: 'node20',
});

const walk = (folder) =>
  readdirSync(folder).flatMap((name) =>
    statSync(join(folder, name)).isDirectory() ? walk(join(folder, name)) : [join(folder, name)],
  );
for (const file of walk('dist/client').filter((name) => /\.(js|css|svg|html|json)$/.test(name))) {
  const bytes = readFileSync(file);
  writeFileSync(`${file}.br`, brotliCompressSync(bytes));
  writeFileSync(`${file}.gz`, gzipSync(bytes, { level: 9 }));
}

// The build is whole: what starts the application looks for this mark.
writeFileSync('dist/built', '');
