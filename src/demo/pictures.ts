/** Larkhaven's pictures, drawn as SVG at 1600 × 800: flat shapes, a small palette, no outside files. */
const W = 1600;
const H = 800;

const gradient = (id: string, ...stops: [number, string][]) =>
  `<linearGradient id="${id}" x1="0" y1="0" x2="0" y2="1">${stops.map(([at, colour]) => `<stop offset="${at}" stop-color="${colour}"/>`).join('')}</linearGradient>`;
const svg = (defs: string, body: string) =>
  `<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 ${W} ${H}" width="${W}" height="${H}"><defs>${defs}</defs>${body}</svg>`;
const sky = `<rect width="${W}" height="${H}" fill="url(#sky)"/>`;
const wave = (y: number, height: number, step: number, fill: string) => {
  let d = `M0 ${y}`;
  for (let x = 0; x < W; x += step) d += ` q${step / 4} ${-height} ${step / 2} 0 t${step / 2} 0`;
  return `<path d="${d} V${H} H0 Z" fill="${fill}"/>`;
};
const sea = (y: number, ...fills: string[]) =>
  fills.map((fill, i) => wave(y + i * 55, 5 + i * 5, 130 + i * 70, fill)).join('');
/** Hills reach a little below the waterline, so that no gap shows in the troughs of the waves. */
const hills = (waterline: number, fill: string, ...peaks: [number, number, number][]) =>
  peaks
    .map(([x, height, spread]) => {
      const y = waterline + 12;
      return `<path d="M${x - spread} ${y} C${x - spread / 2} ${y} ${x - spread / 3} ${y - height} ${x} ${y - height} S${x + spread / 2} ${y} ${x + spread} ${y} Z" fill="${fill}"/>`;
    })
    .join('');
const sun = (x: number, y: number, r: number, fill: string) =>
  `<circle cx="${x}" cy="${y}" r="${r * 1.7}" fill="${fill}" opacity=".18"/><circle cx="${x}" cy="${y}" r="${r}" fill="${fill}"/>`;
const gull = (x: number, y: number, s: number) =>
  `<path d="M${x} ${y} q${s / 2} ${-s / 2} ${s} 0 q${s / 2} ${-s / 2} ${s} 0" fill="none" stroke="#24445c" stroke-width="${s / 9}" stroke-linecap="round"/>`;

function ferry(x: number, y: number, s: number, hull = '#12324a', band = '#e4572e'): string {
  const windows = Array.from(
    { length: 9 },
    (_, i) => `<rect x="${95 + i * 38}" y="-78" width="22" height="20" rx="4" fill="#8cc4dd"/>`,
  ).join('');
  const upper = Array.from(
    { length: 5 },
    (_, i) => `<rect x="${165 + i * 38}" y="-128" width="22" height="18" rx="4" fill="#8cc4dd"/>`,
  ).join('');
  return `<g transform="translate(${x} ${y}) scale(${s})"><path d="M0 -50 H520 L480 40 Q470 60 440 60 H60 Q30 60 22 40 Z" fill="${hull}"/><path d="M8 -28 H511 L506 -14 H12 Z" fill="${band}"/><path d="M70 -95 H470 L450 -50 H70 Z" fill="#fdfaf2"/>${windows}<path d="M140 -140 H400 L412 -95 H140 Z" fill="#fdfaf2"/>${upper}<path d="M240 -205 H310 L318 -140 H240 Z" fill="${band}"/><rect x="240" y="-205" width="71" height="16" fill="${hull}"/><path d="M420 -95 V-190" stroke="${hull}" stroke-width="5"/><path d="M420 -188 l44 14 l-44 14 Z" fill="#f2b134"/></g>`;
}
function lighthouse(x: number, y: number, s: number): string {
  return `<g transform="translate(${x} ${y}) scale(${s})"><path d="M-34 0 L-24 -230 H24 L34 0 Z" fill="#fdfaf2"/><path d="M-31 -60 L-28 -115 H28 L31 -60 Z M-26.500 -170 L-24 -230 H24 L26.500 -170 Z" fill="#e4572e"/><rect x="-32" y="-244" width="64" height="14" rx="3" fill="#12324a"/><rect x="-19" y="-284" width="38" height="40" fill="#fbe3a1"/><path d="M-26 -284 Q0 -326 26 -284 Z" fill="#12324a"/></g>`;
}
function house(x: number, y: number, w: number, h: number, wall: string, roof: string): string {
  const panes = Math.max(1, Math.floor(w / 46));
  const windows = Array.from(
    { length: panes },
    (_, i) =>
      `<rect x="${x + ((i + 0.5) * w) / panes - 10}" y="${y - h + 22}" width="20" height="26" rx="3" fill="#fbe3a1"/>`,
  ).join('');
  return `<rect x="${x}" y="${y - h}" width="${w}" height="${h}" fill="${wall}"/><path d="M${x - 8} ${y - h} L${x + w / 2} ${y - h - w * 0.42} L${x + w + 8} ${y - h} Z" fill="${roof}"/>${windows}<rect x="${x + w / 2 - 11}" y="${y - 36}" width="22" height="36" rx="3" fill="#24445c"/>`;
}
function pier(y: number, from: number, to: number): string {
  const posts = Array.from(
    { length: Math.floor((to - from) / 90) + 1 },
    (_, i) => `<rect x="${from + i * 90}" y="${y}" width="18" height="150" fill="#5b4a3c"/>`,
  ).join('');
  const lamps = Array.from(
    { length: Math.floor((to - from) / 270) + 1 },
    (_, i) =>
      `<path d="M${from + 60 + i * 270} ${y} V${y - 92}" stroke="#24445c" stroke-width="7"/><circle cx="${from + 60 + i * 270}" cy="${y - 100}" r="14" fill="#fbe3a1"/>`,
  ).join('');
  return `${posts}<rect x="${from - 20}" y="${y - 22}" width="${to - from + 60}" height="34" rx="4" fill="#8a6f57"/>${lamps}`;
}
const village = (x: number, y: number) =>
  house(x, y, 90, 76, '#f4d9b8', '#b5523b') +
  house(x + 96, y, 70, 112, '#e9efe9', '#35566b') +
  house(x + 172, y, 104, 84, '#cfe0e4', '#b5523b') +
  house(x + 282, y, 74, 96, '#f7ead2', '#4c6b58');

export interface DrawnPicture {
  /** The key of the page whose part of the website it belongs to. */
  of?: string;
  name: string;
  description: string;
  svg: string;
}

export const PICTURES: Record<
  'dawn' | 'crossing' | 'skell' | 'ennis' | 'cafe' | 'night' | 'steamer' | 'deck',
  DrawnPicture
> = {
  dawn: {
    name: 'Pier at dawn',
    description: 'A long wooden pier with lamps reaches into a calm sea at dawn; a ferry waits at its end.',
    svg: svg(
      gradient('sky', [0, '#f6c9a4'], [0.5, '#fbe6cc'], [1, '#fdf4e6']),
      `${sky}${sun(1180, 380, 80, '#f2b134')}${hills(470, '#a9c3c9', [220, 150, 420], [620, 90, 360])}${sea(470, '#7fb3c4', '#5b98ae', '#3f7d96', '#2c627c')}${ferry(980, 520, 0.75)}${pier(590, 0, 1000)}`,
    ),
  },
  crossing: {
    name: 'Ferry under way',
    description: 'A white and navy ferry with an orange funnel crosses blue water under a clear sky, gulls above it.',
    svg: svg(
      gradient('sky', [0, '#8cc4dd'], [0.6, '#d5ecf4'], [1, '#eef8fb']),
      `${sky}${sun(260, 170, 62, '#fbe3a1')}${hills(430, '#7f9f8d', [1330, 170, 380], [1600, 240, 420])}${hills(430, '#5f8572', [1120, 90, 300])}${sea(430, '#4f9bb8', '#377f9e')}${ferry(520, 520, 1.15)}${sea(560, '#28688a', '#1c5072', '#153f5c')}${gull(420, 220, 34)}${gull(520, 270, 24)}${gull(1120, 180, 30)}`,
    ),
  },
  skell: {
    of: 'harbours',
    name: 'Skell Island light',
    description: 'A red and white lighthouse stands on a green island above grey cliffs.',
    svg: svg(
      gradient('sky', [0, '#b9d8e4'], [1, '#f3f6ee']),
      `${sky}${hills(520, '#9fb9a0', [250, 130, 340])}${sea(500, '#6aa7b8')}${hills(560, '#6f9b6e', [860, 260, 560], [1240, 180, 420])}${hills(575, '#8d9a96', [640, 70, 190], [1180, 62, 260])}${lighthouse(900, 318, 0.85)}${house(980, 372, 86, 52, '#fdfaf2', '#35566b')}${sea(560, '#4c8fa5', '#357690', '#275f79')}${gull(560, 190, 30)}${gull(1260, 220, 24)}`,
    ),
  },
  ennis: {
    of: 'harbours',
    name: 'Port Ennis harbour',
    description: 'Coloured houses line the quay of a small harbour town; a ferry lies alongside.',
    svg: svg(
      gradient('sky', [0, '#a9d2e2'], [1, '#f7efe0']),
      `${sky}${hills(480, '#8fae95', [400, 220, 560], [1150, 170, 520])}${village(120, 500)}${village(500, 500)}${village(880, 500)}${house(1262, 500, 120, 128, '#f4d9b8', '#35566b')}<rect y="498" width="${W}" height="34" fill="#9b8f80"/>${sea(540, '#5b9db3', '#41849c')}${ferry(700, 600, 0.82, '#1d4a52')}${sea(650, '#2f6d88', '#225874')}`,
    ),
  },
  cafe: {
    of: 'cafe',
    name: 'Café window',
    description: 'A cup and a piece of cake on a table by a wide window, with the sea and a passing ferry outside.',
    svg: svg(
      gradient('sky', [0, '#bfe0ea'], [1, '#f8f1e2']),
      `${sky}${sea(360, '#6aaac0', '#4f93ac')}${ferry(880, 390, 0.42)}<path d="M0 0 H${W} V${H} H0 Z M70 60 V520 H770 V60 Z M830 60 V520 H1530 V60 Z" fill="#7a4a35" fill-rule="evenodd"/><rect y="560" width="${W}" height="240" fill="#b9825a"/><rect y="560" width="${W}" height="22" fill="#cf9a70"/><ellipse cx="560" cy="690" rx="190" ry="34" fill="#fdfaf2"/><path d="M430 560 H690 Q684 690 560 690 T430 560 Z" fill="#e4572e"/><ellipse cx="560" cy="560" rx="130" ry="26" fill="#5b3a29"/><path d="M690 590 q80 0 60 50 q-20 36 -84 26" fill="none" stroke="#e4572e" stroke-width="22"/><path d="M520 510 q-24 -40 0 -70 M590 510 q24 -40 0 -80" fill="none" stroke="#fdfaf2" stroke-width="10" stroke-linecap="round" opacity=".8"/><ellipse cx="1050" cy="700" rx="200" ry="32" fill="#fdfaf2"/><path d="M920 690 V600 L1160 560 V680 Z" fill="#f4d9b8"/><path d="M920 600 L1160 560 V592 L920 634 Z" fill="#e08f9a"/><circle cx="1040" cy="560" r="24" fill="#b32f3d"/>`,
    ),
  },
  night: {
    of: 'harbours',
    name: 'South Quay by night',
    description: 'The quay at night: lit windows along the water and a ferry with its lights on.',
    svg: svg(
      gradient('sky', [0, '#0f2338'], [1, '#39566f']),
      `${sky}${Array.from({ length: 34 }, (_, i) => `<circle cx="${(i * 397) % W}" cy="${(i * 173) % 300}" r="${1.5 + (i % 3)}" fill="#fdf4dc" opacity=".8"/>`).join('')}<circle cx="1290" cy="150" r="56" fill="#fdf4dc"/>${hills(480, '#1c3a50', [300, 170, 520], [1200, 130, 520])}${village(180, 500)}${village(1040, 500)}<rect y="498" width="${W}" height="30" fill="#5d6470"/>${sea(530, '#24506b', '#1c425b')}${ferry(560, 580, 0.95, '#0b1f30')}${sea(630, '#16374e', '#102c40')}`,
    ),
  },
  steamer: {
    name: 'The first steamer',
    description: 'An old paddle steamer with a tall black funnel trails smoke over a brown sea, as on an old print.',
    svg: svg(
      gradient('sky', [0, '#e3d3b4'], [1, '#f5ead2']),
      `${sky}${hills(500, '#c3ad86', [300, 130, 480], [1300, 170, 460])}${sea(500, '#a58d67', '#8d7552')}<g transform="translate(480 560)"><path d="M0 -40 H640 L590 50 H50 Z" fill="#4a3826"/><rect x="120" y="-80" width="390" height="42" fill="#efe2c5"/><circle cx="310" cy="0" r="76" fill="#6b5136"/><circle cx="310" cy="0" r="56" fill="none" stroke="#efe2c5" stroke-width="8" stroke-dasharray="18 12"/><rect x="290" y="-270" width="46" height="192" fill="#2e241a"/><rect x="290" y="-244" width="46" height="16" fill="#a5482f"/><path d="M313 -280 C260 -360 150 -330 90 -400 S-120 -420 -240 -460" fill="none" stroke="#8b7a63" stroke-width="46" stroke-linecap="round" opacity=".45"/><path d="M560 -40 V-210" stroke="#2e241a" stroke-width="7"/></g>${sea(600, '#7a6444', '#665236', '#54432c')}`,
    ),
  },
  deck: {
    name: 'On deck',
    description: 'An empty bench on a ferry’s deck behind a white rail, islands on the horizon.',
    svg: svg(
      gradient('sky', [0, '#9fd0e2'], [1, '#eef6f2']),
      `${sky}${hills(420, '#7c9f94', [260, 80, 300], [980, 120, 380], [1400, 70, 260])}${sea(420, '#5aa0b8', '#43899f', '#34758c')}<rect y="640" width="${W}" height="160" fill="#c79a6b"/>${Array.from({ length: 9 }, (_, i) => `<rect y="${650 + i * 18}" width="${W}" height="3" fill="#a97c50"/>`).join('')}${Array.from({ length: 12 }, (_, i) => `<rect x="${40 + i * 140}" y="470" width="12" height="180" fill="#fdfaf2"/>`).join('')}<rect y="460" width="${W}" height="20" rx="8" fill="#8a5a3a"/><rect y="540" width="${W}" height="8" fill="#fdfaf2"/><rect y="590" width="${W}" height="8" fill="#fdfaf2"/><rect x="540" y="560" width="520" height="26" rx="6" fill="#12324a"/><rect x="540" y="640" width="520" height="30" rx="6" fill="#12324a"/><path d="M580 560 V740 M1020 560 V740" stroke="#12324a" stroke-width="20"/><circle cx="1320" cy="640" r="64" fill="none" stroke="#e4572e" stroke-width="30"/><circle cx="1320" cy="640" r="64" fill="none" stroke="#fdfaf2" stroke-width="30" stroke-dasharray="50 50"/>`,
    ),
  },
};
