import type { Palette } from './preferences';

/** The names of the colours the back office is drawn with (`--color-…` in `styles/office.css`). */
export type Colour =
  | 'white'
  | 'paper'
  | 'sheet'
  | 'ink'
  | 'ink-2'
  | 'ink-3'
  | 'line'
  | 'line-2'
  | 'pine'
  | 'pine-2'
  | 'pine-soft'
  | 'pine-wash'
  | 'sun'
  | 'sun-ink'
  | 'sun-soft'
  | 'brick'
  | 'brick-soft'
  | 'sky'
  | 'sky-soft'
  | 'sand'
  | 'ring';

/**
 * The colours of each palette, as sRGB. Of `paper` nothing is said: it is what the style sheet has. `white` is the
 * lightest ground, and what stands on a button filled with `pine`.
 */
export const PALETTE_COLOURS: Record<Exclude<Palette, 'paper'>, Record<Colour, string>> = {
  slate: {
    white: '#ffffff',
    paper: '#eef0f2',
    sheet: '#fbfcfd',
    ink: '#1b2430',
    'ink-2': '#47525f',
    'ink-3': '#545f6b',
    line: '#d3d9df',
    'line-2': '#b3bcc6',
    pine: '#1d4f73',
    'pine-2': '#153d5a',
    'pine-soft': '#dae7f1',
    'pine-wash': '#edf3f8',
    sun: '#a86a02',
    'sun-ink': '#704600',
    'sun-soft': '#fcebcb',
    brick: '#9c3527',
    'brick-soft': '#f7dfda',
    sky: '#4a4a93',
    'sky-soft': '#e4e4f4',
    sand: '#e0e4e8',
    ring: '#c98a10',
  },
  night: {
    white: '#0d1413',
    paper: '#131b1a',
    sheet: '#1a2423',
    ink: '#f0ede4',
    'ink-2': '#c3c9c4',
    'ink-3': '#aab3ae',
    line: '#33403e',
    'line-2': '#556460',
    pine: '#7fd0b9',
    'pine-2': '#9bdfcb',
    'pine-soft': '#213c36',
    'pine-wash': '#1c302c',
    sun: '#e0a83e',
    'sun-ink': '#f4cf86',
    'sun-soft': '#3d3016',
    brick: '#f2a394',
    'brick-soft': '#432520',
    sky: '#9cc6ea',
    'sky-soft': '#20323f',
    sand: '#2b3634',
    ring: '#f0b84a',
  },
  contrast: {
    white: '#ffffff',
    paper: '#ffffff',
    sheet: '#ffffff',
    ink: '#000000',
    'ink-2': '#1f1f1f',
    'ink-3': '#2b2b2b',
    line: '#767676',
    'line-2': '#4d4d4d',
    pine: '#00382f',
    'pine-2': '#001f1a',
    'pine-soft': '#e3f2ec',
    'pine-wash': '#f1f8f5',
    sun: '#6b4300',
    'sun-ink': '#4a2e00',
    'sun-soft': '#fff1d6',
    brick: '#7a1c10',
    'brick-soft': '#fdeae6',
    sky: '#0b3a5e',
    'sky-soft': '#e8f1f8',
    sand: '#eeeeee',
    ring: '#9a5b00',
  },
};

/** The custom properties that put a palette in force, as CSS; nothing for the usual one. */
export const paletteCss = (palette: Palette): string =>
  palette === 'paper'
    ? ''
    : Object.entries(PALETTE_COLOURS[palette])
        .map(([name, value]) => `--color-${name}:${value}`)
        .join(';');
