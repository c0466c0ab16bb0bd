// Stands in for the build's own helper, which every import() of a script goes through (astro.config.mjs says so).
//
// A browser that could not fetch a module once never asks for it again while the page is open. So everything an import
// needs is fetched first in a way that may fail: the import itself then finds it in the browser's store.

/** Files that have come, by their address. */
const there = new Set();

async function fetched(/** @type {string} */ file) {
  if (there.has(file)) return;
  const response = await fetch(file);
  if (!response.ok) throw new Error(`${file} could not be fetched (${response.status})`);
  await response.arrayBuffer();
  there.add(file);
}

/** A sheet of styles, in force. */
const styled = (/** @type {string} */ file) =>
  new Promise((done, failed) => {
    if (document.querySelector(`link[rel="stylesheet"][href="${file}"]`)) return done(undefined);
    const link = Object.assign(document.createElement('link'), { rel: 'stylesheet', href: file });
    link.onload = done;
    link.onerror = () => {
      link.remove();
      failed(new Error(`${file} could not be fetched`));
    };
    document.head.append(link);
  });

/**
 * @template T
 * @param {() => Promise<T>} load
 * @param {string[]} needed All files it needs, itself among them; empty where it is alone.
 * @returns {Promise<T>}
 */
export async function __vitePreload(load, needed = []) {
  // Alone it is named by the import only, which stands beside the scripts there are.
  const alone = /import\(["'`]\.\/([^"'`]+)["'`]\)/.exec(String(load))?.[1];
  const files = needed.length > 0 ? needed.map((file) => `/${file}`) : alone ? [`/_astro/${alone}`] : [];
  const styles = files.filter((file) => file.endsWith('.css'));
  await Promise.all([...files.filter((file) => !styles.includes(file)).map(fetched), ...styles.map(styled)]);
  return load();
}
