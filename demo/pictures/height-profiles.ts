import { randomFrom } from './noise.js';
import type { PaintedFile } from './paint.js';

const [width, height] = [1080, 260];

/** Height profiles of two ways: one as a drawing program leaves it, one made for the web. */
export function heightProfiles(): PaintedFile[] {
  return [
    { file: 'profile-lonebotn.svg', content: Buffer.from(asExported(climb(131))) },
    { file: 'profile-skarn.svg', content: Buffer.from(forTheWeb(climb(137))) },
  ];
}

interface Point {
  x: number;
  y: number;
}

/** A way upwards in 600 steps, with the stones that a step counter feels. */
function climb(seed: number): Point[] {
  const random = randomFrom(seed);
  let rough = 0;
  return Array.from({ length: 600 }, (_, index) => {
    const share = index / 599;
    rough = rough * 0.9 + (random() - 0.5) * 5;
    return { x: share * width, y: height - 30 - 190 * share ** 1.4 - rough };
  });
}

const pathOf = (points: readonly Point[], decimals: number) =>
  points
    .map(({ x, y }, index) => `${index === 0 ? 'M' : 'L'} ${x.toFixed(decimals)},${y.toFixed(decimals)}`)
    .join(' ');

function asExported(points: readonly Point[]): string {
  const shifted = points.map(({ x, y }) => ({ x, y: y + 4.123456 }));
  return `<?xml version="1.0" encoding="UTF-8" standalone="no"?>
<!-- Exported for print; keep all layers -->
<svg xmlns="http://www.w3.org/2000/svg" xmlns:draft="urn:norrfell:drafting-table" width="${width}" height="${height}" viewBox="0 0 ${width} ${height}">
  <metadata><draft:history>${points.map(({ y }) => `<draft:step height="${(height - y).toFixed(6)}"/>`).join('')}</draft:history></metadata>
  <g id="layer-old" style="display:none"><path d="${pathOf(shifted, 6)}" fill="none" stroke="#999999"/></g>
  <rect x="0.000000" y="0.000000" width="${width}" height="${height}" style="fill:#eef2f3;fill-opacity:1;stroke:none"/>
  <path d="${pathOf(points, 6)} L ${width}.000000,${height}.000000 L 0.000000,${height}.000000 Z" style="fill:#28424f;fill-opacity:1;stroke:none"/>
</svg>
`;
}

function forTheWeb(points: readonly Point[]): string {
  const few = points.filter((_, index) => index % 3 === 0);
  const line = few.map(({ x, y }) => `${Math.round(x)} ${Math.round(y)}`).join(' ');
  return `<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 ${width} ${height}"><path fill="#eef2f3" d="M0 0h${width}v${height}H0z"/><path fill="#28424f" d="M${line} ${width} ${height} 0 ${height}z"/></svg>\n`;
}
