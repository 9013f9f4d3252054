/** Vector shapes that are drawn over the painted grounds. Coordinates: 1000 across, the height by the picture's ratio. */

export function hutShape(x: number, base: number, size: number, lit: string): string {
  const w = size;
  const h = size * 0.42;
  const roof = size * 0.34;
  const wall = `M${x} ${base}v${-h}h${w}v${h}z`;
  const gable = `M${x - w * 0.08} ${base - h}l${w * 0.2} ${-roof}h${w * 0.76}l${w * 0.2} ${roof}z`;
  const windows = [0.14, 0.42, 0.7]
    .map(
      (part) =>
        `<rect x="${x + w * part}" y="${base - h * 0.72}" width="${w * 0.14}" height="${h * 0.36}" fill="${lit}"/>`,
    )
    .join('');
  const logs = [0.2, 0.4, 0.6, 0.8]
    .map((part) => `<path d="M${x} ${base - h * part}h${w}" stroke="#2a1a10" stroke-width="${size / 160}"/>`)
    .join('');
  return (
    `<path d="${wall}" fill="#5b3a24"/>${logs}<path d="${gable}" fill="#3a4046"/>` +
    `<path d="M${x + w * 0.7} ${base - h - roof * 0.7}v${-roof * 0.6}h${w * 0.07}v${roof * 0.6}z" fill="#44362e"/>${windows}`
  );
}

const coats = ['#37566b', '#7a4636', '#51683f', '#8a6b2f', '#4f4468', '#2f6f6a'];
const skins = ['#e7bf9c', '#c99571', '#8d5b3f', '#f0d0b4', '#a87450', '#d8a983'];
const hats = ['#b23a2e', '#2f4858', '#d9a441', '#6a7f4f', '#e8e4da', '#5c3d5e'];

/** An abstract portrait: head, hat and shoulders, no features. */
export function portraitShape(seed: number, height: number): string {
  const pick = (list: readonly string[], step: number) => list[(seed * step + 1) % list.length] ?? '#888';
  const middle = 500 + ((seed * 37) % 60) - 30;
  return (
    `<ellipse cx="${middle}" cy="${height + 60}" rx="360" ry="330" fill="${pick(coats, 1)}"/>` +
    `<rect x="${middle - 60}" y="${height * 0.58}" width="120" height="150" fill="${pick(skins, 5)}" opacity=".9"/>` +
    `<ellipse cx="${middle}" cy="${height * 0.46}" rx="150" ry="185" fill="${pick(skins, 5)}"/>` +
    `<path d="M${middle - 165} ${height * 0.4}q165 -330 330 0z" fill="${pick(hats, 7)}"/>` +
    `<rect x="${middle - 172}" y="${height * 0.37}" width="344" height="44" rx="22" fill="${pick(hats, 3)}"/>`
  );
}

const strokes: Record<string, string> = {
  snow: 'M12 2v20M3.5 7l17 10M20.5 7l-17 10',
  wind: 'M2 9h12a3 3 0 1 0-3-3M2 14h16a3 3 0 1 1-3 3M2 19h7',
  sun: 'M12 7a5 5 0 1 0 0 10a5 5 0 1 0 0-10M12 1v3M12 20v3M1 12h3M20 12h3M4 4l2 2M18 18l2 2M20 4l-2 2M6 18l-2 2',
  bed: 'M2 18v-8h20v8M2 14h20M6 10V7h5v3',
  fire: 'M12 22c5 0 7-3 7-7c0-5-5-6-5-12c-4 2-4 6-5 8c-1-1-2-2-2-3c-2 3-2 5-2 7c0 4 2 7 7 7',
  water: 'M12 2c5 7 7 10 7 13a7 7 0 0 1-14 0c0-3 2-6 7-13',
  path: 'M4 21c0-5 6-5 6-9S5 7 8 3M14 21c1-4 7-5 5-10s-3-5-2-8',
  flag: 'M5 22V3M5 4h13l-3 4l3 4H5',
};

export const iconNames = Object.keys(strokes);

/** A line icon on a 24×24 grid. */
export function iconSvg(name: string, colour = '#28424f', size = 24): string {
  const d = strokes[name] ?? strokes['flag'] ?? '';
  return (
    `<svg xmlns="http://www.w3.org/2000/svg" width="${size}" height="${size}" viewBox="0 0 24 24" fill="none" ` +
    `stroke="${colour}" stroke-width="2" stroke-linecap="round" stroke-linejoin="round"><path d="${d}"/></svg>`
  );
}

/** The association's mark: a hut under a ridge. */
export function logoSvg(): string {
  return (
    '<svg xmlns="http://www.w3.org/2000/svg" width="48" height="48" viewBox="0 0 48 48">' +
    '<circle cx="24" cy="24" r="24" fill="#1f3a46"/><path d="M4 32L18 12l7 10l5-6l14 16z" fill="#dfe9ec"/>' +
    '<path d="M16 38v-8l8-6l8 6v8z" fill="#c8552f"/></svg>'
  );
}
