import { writeFileSync } from 'node:fs';
import { pathToFileURL } from 'node:url';
import { createElement } from 'react';
import { renderToStaticMarkup } from 'react-dom/server';
import * as drawings from 'lucide-react';
import { ICONS } from '../src/islands/kit/iconNames';

/** All icons as one drawing, each a symbol by its name. */
export function drawIcons(): string {
  const symbols = Object.entries(ICONS).map(([name, source]) => {
    const svg = renderToStaticMarkup(createElement(drawings[source]));
    const inside = svg.slice(svg.indexOf('>') + 1, svg.lastIndexOf('</svg>'));
    return `<symbol id="${name}" viewBox="0 0 24 24">${inside}</symbol>`;
  });
  return `<svg xmlns="http://www.w3.org/2000/svg">\n${symbols.join('\n')}\n</svg>\n`;
}

if (import.meta.url === pathToFileURL(process.argv[1] ?? '').href)
  writeFileSync('src/islands/kit/icons.svg', drawIcons());
