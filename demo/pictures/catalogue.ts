import type { RidgeOptions } from './ridges.js';

/** How a picture's ground is painted. */
export type Ground =
  ({ kind: 'ridges' | 'lake' } & RidgeOptions) | { kind: 'snow' | 'timber' | 'contours'; seed: number };

/** What is drawn over the ground. */
export type Overlay =
  | { kind: 'hut'; x: number; base: number; size: number }
  | { kind: 'portrait'; seed: number }
  | { kind: 'route' };

/** One file made from a picture. */
export interface Output {
  file: string;
  /** Pixels across; the picture's own width if left out. */
  width?: number;
  /** Cut to this height from the middle, pixels. */
  height?: number;
  format: 'jpeg' | 'avif' | 'webp' | 'png' | 'png-palette';
  quality?: number;
  /** Write what a camera writes: maker, exposure, a comment. */
  cameraMetadata?: boolean;
}

export interface PictureRecipe {
  name: string;
  width: number;
  height: number;
  ground: Ground;
  overlay?: Overlay;
  outputs: Output[];
}

const ladder = (
  name: string,
  widths: readonly number[],
  format: 'avif' | 'webp' | 'jpeg' = 'avif',
): Output[] =>
  widths.map((width) => ({
    file: `${name}-${width}.${format === 'jpeg' ? 'jpg' : format}`,
    width,
    format,
    quality: { avif: 55, webp: 76, jpeg: 74 }[format],
  }));

/** As it comes out of a camera: full size, high quality, with everything the camera notes. */
const original = (name: string): Output => ({
  file: `${name}.jpg`,
  format: 'jpeg',
  quality: 92,
  cameraMetadata: true,
});

const cardWidths = [360, 480, 700, 780, 1060];
const leadWidths = [1080, 1600, 2200];
const pageWidths = [480, 800, 1060, 1200, 1500, 1600, 2400];
const teaserWidths = [330, 360, 640, 700];

function camera(name: string, ground: Ground, outputs: Output[], overlay?: Overlay): PictureRecipe {
  return { name, width: 4000, height: 2667, ground, outputs, ...(overlay ? { overlay } : {}) };
}

function card(
  name: string,
  ground: Ground,
  overlay?: Overlay,
  more: readonly number[] = [],
  others: readonly Output[] = [],
): PictureRecipe {
  const outputs = [...ladder(name, [...cardWidths, ...more]), ...others];
  return { name, width: 1600, height: 1067, ground, outputs, ...(overlay ? { overlay } : {}) };
}

const hut = (x: number, base: number, size: number): Overlay => ({ kind: 'hut', x, base, size });

const cameraPictures: PictureRecipe[] = [
  camera('ridge-dawn', { kind: 'ridges', palette: 'dawn', seed: 1 }, [original('ridge-dawn')]),
  camera(
    'skarn',
    { kind: 'ridges', palette: 'dusk', seed: 8, snow: 0.4 },
    [original('skarn'), ...ladder('skarn', [...cardWidths, ...leadWidths, 600, 1160])],
    hut(560, 590, 210),
  ),
  camera('lonebotn', { kind: 'lake', palette: 'autumn', seed: 3 }, [
    original('lonebotn'),
    ...ladder('lonebotn', [...cardWidths, ...leadWidths]),
  ]),
  camera('hvitkollen', { kind: 'ridges', palette: 'day', seed: 4, snow: 0.8 }, [
    original('hvitkollen'),
    ...ladder('hvitkollen', [...cardWidths, ...leadWidths]),
  ]),
  camera('timber-hall', { kind: 'timber', seed: 2 }, [
    original('timber-hall'),
    ...ladder('timber-hall', [...cardWidths, ...leadWidths]),
  ]),
  {
    name: 'snow-drift',
    width: 2250,
    height: 1500,
    ground: { kind: 'snow', seed: 2 },
    outputs: ladder('snow-drift', [...cardWidths, ...leadWidths]),
  },
  {
    name: 'ridge-mist',
    width: 2250,
    height: 1500,
    ground: { kind: 'ridges', palette: 'mist', seed: 12 },
    outputs: ladder('ridge-mist', [...cardWidths, ...leadWidths]),
  },
];

const hutCards: PictureRecipe[] = [
  card(
    'tverrdal',
    { kind: 'ridges', palette: 'autumn', seed: 21 },
    hut(300, 560, 180),
    [],
    [
      { file: 'album-01.jpg', width: 1400, format: 'jpeg', quality: 78 },
      { file: 'album-tall.avif', width: 1300, height: 866, format: 'avif', quality: 55 },
    ],
  ),
  card('krokvatn', { kind: 'lake', palette: 'day', seed: 22 }),
  card(
    'stormheim',
    { kind: 'ridges', palette: 'mist', seed: 23, snow: 0.6 },
    hut(620, 580, 160),
    [800, 1500],
  ),
  card('bjorkli', { kind: 'ridges', palette: 'day', seed: 24 }, hut(180, 600, 240), [1500]),
  card(
    'isfonn',
    { kind: 'ridges', palette: 'dawn', seed: 25, snow: 1 },
    undefined,
    [],
    [
      { file: 'album-02.jpg', width: 1400, format: 'jpeg', quality: 78 },
      { file: 'album-door.webp', width: 1400, format: 'webp', quality: 76 },
      { file: 'album-door.jpg', width: 1400, format: 'jpeg', quality: 78 },
    ],
  ),
  card('langskar', { kind: 'ridges', palette: 'dusk', seed: 26 }, hut(440, 570, 150), [600, 1160]),
  card(
    'myrset',
    { kind: 'lake', palette: 'mist', seed: 27 },
    undefined,
    [1000],
    [
      { file: 'album-hero.avif', format: 'avif', quality: 55 },
      { file: 'album-view.avif', width: 1080, format: 'avif', quality: 55 },
    ],
  ),
  card('gullhorn', { kind: 'ridges', palette: 'autumn', seed: 28, snow: 0.5 }, undefined, [330, 640]),
  card('vintersbu', { kind: 'ridges', palette: 'day', seed: 29, snow: 0.9 }, hut(660, 590, 190), [540]),
];

const newsPictures: PictureRecipe[] = [
  {
    name: 'first-snow',
    width: 2400,
    height: 1350,
    ground: { kind: 'ridges', palette: 'mist', seed: 31, snow: 0.9 },
    outputs: [
      ...ladder('first-snow', [...pageWidths, ...teaserWidths]),
      ...ladder('first-snow', [800, 1600], 'webp'),
      ...ladder('first-snow', [800, 1060, 1200, 1600], 'jpeg'),
      { file: 'first-snow-heavy-1200.jpg', width: 1200, format: 'jpeg', quality: 96 },
    ],
  },
  {
    name: 'new-bridge',
    width: 2400,
    height: 1350,
    ground: { kind: 'lake', palette: 'dawn', seed: 33 },
    outputs: [
      ...ladder('new-bridge', [...pageWidths, ...teaserWidths]),
      ...ladder('new-bridge', [480, 800, 1060, 1600], 'jpeg'),
      { file: 'new-bridge-square-800.avif', width: 800, height: 800, format: 'avif', quality: 55 },
      { file: 'new-bridge-square-1060.avif', width: 1060, height: 1060, format: 'avif', quality: 55 },
    ],
  },
  {
    name: 'panorama',
    width: 2400,
    height: 390,
    ground: { kind: 'ridges', palette: 'dawn', seed: 35, snow: 0.5 },
    outputs: [
      ...ladder('panorama', pageWidths),
      { file: 'panorama-crop-800.avif', width: 800, height: 500, format: 'avif', quality: 55 },
      { file: 'panorama-crop-1060.avif', width: 1060, height: 662, format: 'avif', quality: 55 },
    ],
  },
  {
    name: 'snow-fence',
    width: 1600,
    height: 1067,
    ground: { kind: 'snow', seed: 41 },
    outputs: [
      ...ladder('snow-fence', [330, 360, 540, 640, 780, 1060]),
      ...ladder('snow-fence-copy', [330, 640, 1060]),
    ],
  },
];

const maps: PictureRecipe[] = ['skarn', 'lonebotn', 'hvitkollen'].map((name, index) => ({
  name: `map-${name}`,
  width: 1680,
  height: 1120,
  ground: { kind: 'contours', seed: 3 + index * 4 },
  overlay: { kind: 'route' },
  outputs: [840, 1080, 1680].map((width) => ({
    file: `map-${name}-${width}.png`,
    width,
    format: 'png-palette',
  })),
}));
maps[2]?.outputs.push(
  { file: 'map-hvitkollen-photo-1080.jpg', width: 1080, format: 'jpeg', quality: 92 },
  { file: 'map-hvitkollen-photo-1680.jpg', width: 1680, format: 'jpeg', quality: 92 },
);

const portraits: PictureRecipe[] = Array.from({ length: 9 }, (_, index) => ({
  name: `person-${index + 1}`,
  width: 720,
  height: 720,
  ground: {
    kind: 'ridges',
    palette: (['mist', 'day', 'dawn', 'autumn', 'dusk'] as const)[index % 5] ?? 'mist',
    seed: 50 + index,
    trees: false,
    snow: 0,
  },
  overlay: { kind: 'portrait', seed: index },
  outputs: ladder(`person-${index + 1}`, [160, 320, 480]),
}));
portraits[2]?.outputs.push({ file: 'person-3-480.png', width: 480, format: 'png' });
portraits[8]?.outputs.push({
  file: 'album-warden.avif',
  width: 720,
  height: 480,
  format: 'avif',
  quality: 55,
});
portraits[3]?.outputs.push({ file: 'person-4-96.avif', width: 96, format: 'avif', quality: 55 });

/** Every picture of the demo site, the largest first so that two workers finish together. */
export const recipes: readonly PictureRecipe[] = [
  ...cameraPictures,
  ...newsPictures,
  ...hutCards,
  ...maps,
  ...portraits,
];
