import sharp, { type Sharp } from 'sharp';
import { paint } from '../../demo/pictures/paint.js';
import { Dice } from './generated-site.js';

export type KindOfPicture = 'photograph' | 'drawing';

export interface PictureOfKind {
  name: string;
  kind: KindOfPicture;
  content: Buffer;
  format: string;
}

type Colour = [number, number, number];

/** Smooth noise from 0 to 1: values on a coarse grid, enlarged. */
function clouds(dice: Dice, width: number, height: number, cells: number): Float32Array {
  const columns = cells + 2;
  const rows = Math.max(2, Math.round((cells * height) / width)) + 2;
  const grid = Array.from({ length: columns * rows }, () => dice.share());
  const field = new Float32Array(width * height);
  const ease = (part: number) => part * part * (3 - 2 * part);
  for (let y = 0; y < height; y++) {
    const v = (y / height) * (rows - 2);
    const row = Math.floor(v) * columns;
    const b = ease(v - Math.floor(v));
    for (let x = 0; x < width; x++) {
      const u = (x / width) * cells;
      const left = row + Math.floor(u);
      const a = ease(u - Math.floor(u));
      const above = (grid[left] ?? 0) * (1 - a) + (grid[left + 1] ?? 0) * a;
      const below = (grid[left + columns] ?? 0) * (1 - a) + (grid[left + columns + 1] ?? 0) * a;
      field[y * width + x] = above * (1 - b) + below * b;
    }
  }
  return field;
}

const mix = (a: Colour, b: Colour, part: number): Colour => [
  a[0] + (b[0] - a[0]) * part,
  a[1] + (b[1] - a[1]) * part,
  a[2] + (b[2] - a[2]) * part,
];
const anyColour = (dice: Dice): Colour => [
  dice.between(10, 245),
  dice.between(10, 245),
  dice.between(10, 245),
];

function pixels(
  dice: Dice,
  width: number,
  height: number,
  grain: number,
  colourAt: (x: number, y: number) => Colour,
): Sharp {
  const data = Buffer.alloc(width * height * 3);
  for (let y = 0; y < height; y++)
    for (let x = 0; x < width; x++) {
      const colour = colourAt(x, y);
      const noise = (dice.share() + dice.share() - 1) * grain;
      for (let channel = 0; channel < 3; channel++)
        data[(y * width + x) * 3 + channel] = Math.max(
          0,
          Math.min(255, Math.round((colour[channel] ?? 0) + noise)),
        );
    }
  return sharp(data, { raw: { width, height, channels: 3 } });
}

/** Photographs, smooth ones among them: skies over water, matt things on a table, faces out of focus, snow, timber, ridges. */
async function photograph(
  dice: Dice,
  width: number,
  height: number,
): Promise<{ name: string; picture: Sharp }> {
  const grain = dice.of([0, 0.7, 1.5, 3, 8]);
  const name = dice.of(['evening', 'cups', 'sky', 'bokeh', 'product', 'ridges', 'snow', 'timber']);
  switch (name) {
    case 'evening': {
      const [top, low, water, shore] = [
        anyColour(dice),
        anyColour(dice),
        anyColour(dice),
        mix(anyColour(dice), [10, 12, 20], 0.8),
      ];
      const hills = clouds(dice, width, 8, 9);
      const ripple = clouds(dice, width, height, 30);
      const horizon = height * (0.4 + dice.share() * 0.2);
      return {
        name,
        picture: pixels(dice, width, height, grain, (x, y) => {
          const ridge = horizon - (hills[x] ?? 0) * height * 0.12;
          if (y < ridge) return mix(top, low, y / horizon);
          if (y < horizon) return mix(shore, low, 0.15 + ((y - ridge) / height) * 0.5);
          const depth = (y - horizon) / (height - horizon);
          return mix(mix(low, water, depth), top, (ripple[y * width + x] ?? 0) * 0.15);
        }),
      };
    }
    case 'cups':
    case 'product': {
      const white = name === 'product';
      const [wall, table] = white
        ? [[250, 250, 250] as Colour, [246, 246, 246] as Colour]
        : [anyColour(dice), anyColour(dice)];
      const part = dice.of([0.36, 0.25, 0.16, 0.1]);
      const things = Array.from({ length: white ? dice.between(1, 3) : dice.between(3, 9) }, (_, index) => ({
        x: white ? width * (0.25 + index * 0.25) : (index + 0.5) * (width / 9),
        y: height * (0.5 + dice.share() * 0.15),
        radius: white ? height * part : width * (0.05 + dice.share() * 0.03),
        colour: anyColour(dice),
      }));
      return {
        name,
        picture: pixels(dice, width, height, white ? grain / 4 : grain, (x, y) => {
          let colour =
            y < height * 0.62
              ? mix(wall, [255, 255, 255], white ? 0 : (x / width) * 0.2)
              : mix(table, [0, 0, 0], white ? 0 : ((y - height * 0.62) / height) * 0.4);
          for (const { x: cx, y: cy, radius, colour: own } of things) {
            const [dx, dy] = [(x - cx) / radius, (y - cy) / radius];
            // Most pixels lie far from most things.
            if (Math.abs(dx) > 1.02 || Math.abs(dy) > 1.02) continue;
            const distance = Math.hypot(dx, dy);
            if (distance > 1.02) continue;
            const light = Math.max(0, 1 - Math.hypot(dx + 0.4, dy + 0.45) / 1.5);
            const shaded = mix(mix(own, [0, 0, 0], 0.55), mix(own, [255, 255, 255], 0.35), light);
            colour = mix(colour, shaded, Math.min(1, Math.max(0, (1.02 - distance) * radius * 0.7)));
          }
          return colour;
        }),
      };
    }
    case 'sky': {
      const [top, low] = [anyColour(dice), anyColour(dice)];
      const field = clouds(dice, width, height, dice.between(2, 6));
      const fine = clouds(dice, width, height, 18);
      return {
        name,
        picture: pixels(dice, width, height, grain, (x, y) =>
          mix(
            mix(top, low, y / height),
            [250, 250, 250],
            Math.max(0, ((field[y * width + x] ?? 0) + (fine[y * width + x] ?? 0) * 0.3 - 0.6) * 1.4),
          ),
        ),
      };
    }
    case 'bokeh': {
      const ground = clouds(dice, width, height, 4);
      const [a, b] = [anyColour(dice), anyColour(dice)];
      const lights = Array.from({ length: dice.between(5, 30) }, () => ({
        x: dice.share() * width,
        y: dice.share() * height,
        r: width * (0.01 + dice.share() * 0.05),
        c: anyColour(dice),
      }));
      return {
        name,
        picture: pixels(dice, width, height, grain, (x, y) => {
          let colour = mix(a, b, ground[y * width + x] ?? 0);
          for (const { x: cx, y: cy, r, c } of lights) {
            if (Math.abs(x - cx) >= r || Math.abs(y - cy) >= r) continue;
            const distance = Math.hypot(x - cx, y - cy) / r;
            if (distance < 1) colour = mix(colour, c, 0.6 * Math.min(1, (1 - distance) * 6));
          }
          return colour;
        }),
      };
    }
    default: {
      const seed = dice.between(1, 9999);
      const ground =
        name === 'ridges'
          ? ({
              kind: 'ridges',
              palette: dice.of(['dawn', 'day', 'dusk', 'mist'] as const),
              seed,
              grain: dice.of([2, 6, 12]),
            } as const)
          : ({ kind: name as 'snow' | 'timber', seed } as const);
      const [file] = await paint({ name, width, height, ground, outputs: [{ file: name, format: 'png' }] });
      return { name, picture: sharp(file?.content) };
    }
  }
}

const words = 'hut path stove bridge ridge key water snow map door lamp book coat rope'.split(' ');

/** Drawings: charts, maps, signs, flat scenes, screenshots with text. */
function drawing(dice: Dice, width: number, height: number): { name: string; picture: Sharp } {
  const name = dice.of(['chart', 'map', 'sign', 'scene', 'screenshot', 'lines']);
  const colours = Array.from({ length: 6 }, () => `rgb(${anyColour(dice).join(',')})`);
  const c = () => dice.of(colours);
  const x = () => dice.between(0, width);
  const y = () => dice.between(0, height);
  const many = (count: number, make: (index: number) => string) =>
    Array.from({ length: count }, (_, index) => make(index)).join('');
  const text = (size: number) =>
    `<text x="${x()}" y="${y()}" font-size="${size}" font-family="sans-serif" fill="#222">${dice.of(words)} ${dice.of(words)}</text>`;
  const body: Record<string, () => string> = {
    chart: () =>
      many(
        20,
        (i) =>
          `<rect x="${(i * width) / 20 + 4}" y="${height * (0.2 + dice.share() * 0.6)}" width="${width / 28}" height="${height}" fill="${c()}"/>`,
      ) +
      many(6, (i) => `<path d="M0 ${(i * height) / 6}H${width}" stroke="#bbb" stroke-width="2"/>`) +
      many(5, () => text(18)),
    map: () =>
      many(
        14,
        () =>
          `<path d="M${x()} ${y()}Q${x()} ${y()} ${x()} ${y()}T${x()} ${y()}" stroke="${c()}" stroke-width="${dice.between(2, 7)}" fill="none"/>`,
      ) +
      many(
        4,
        () => `<polygon points="${x()},${y()} ${x()},${y()} ${x()},${y()} ${x()},${y()}" fill="${c()}"/>`,
      ) +
      many(8, () => text(16)),
    sign: () =>
      many(5, () => `<circle cx="${x()}" cy="${y()}" r="${dice.between(20, 120)}" fill="${c()}"/>`) +
      many(2, () => text(60)),
    scene: () =>
      `<rect width="${width}" height="${height * 0.6}" fill="${c()}"/>` +
      many(
        6,
        () =>
          `<polygon points="${x()},${height} ${x()},${dice.between(0, height / 2)} ${x()},${height}" fill="${c()}"/>`,
      ) +
      many(8, () => `<rect x="${x()}" y="${y()}" width="40" height="60" fill="${c()}"/>`),
    screenshot: () =>
      `<rect width="${width}" height="44" fill="${c()}"/><rect y="44" width="180" height="${height}" fill="#eee"/>` +
      many(
        34,
        (i) =>
          `<text x="200" y="${80 + i * 22}" font-size="14" font-family="sans-serif" fill="#333">${many(9, () => `${dice.of(words)} `)}</text>`,
      ),
    lines: () =>
      many(
        40,
        () => `<path d="M${x()} ${y()}L${x()} ${y()}" stroke="#111" stroke-width="${dice.between(1, 4)}"/>`,
      ),
  };
  const ground = dice.of(['#fff', '#fff', '#f4f1e8', '#222', colours[0] ?? '#fff']);
  const svg = `<svg xmlns="http://www.w3.org/2000/svg" width="${width}" height="${height}"><rect width="100%" height="100%" fill="${ground}"/>${body[name]?.() ?? ''}</svg>`;
  return { name, picture: sharp(Buffer.from(svg)).flatten({ background: '#fff' }) };
}

function encoded(dice: Dice, picture: Sharp): { format: string; make: Promise<Buffer> } {
  const format = dice.of(['jpeg', 'jpeg', 'webp', 'avif', 'png']);
  const quality = dice.of([55, 70, 80, 90]);
  switch (format) {
    case 'jpeg':
      return { format: `jpeg ${quality}`, make: picture.jpeg({ quality }).toBuffer() };
    case 'webp':
      return { format: `webp ${quality}`, make: picture.webp({ quality }).toBuffer() };
    case 'avif':
      return {
        format: `avif ${quality - 15}`,
        make: picture.avif({ quality: quality - 15, effort: 0 }).toBuffer(),
      };
    default:
      return { format, make: picture.png().toBuffer() };
  }
}

/** A picture of a kind, from a number: another subject, size, format and quality each time. */
export async function pictureOfKind(kind: KindOfPicture, seed: number): Promise<PictureOfKind> {
  const dice = new Dice(seed * 2 + (kind === 'drawing' ? 1 : 0));
  const width = dice.of([400, 700, 1000, 1400]);
  const height = Math.round(width / dice.of([1.5, 1, 1.78]));
  const { name, picture } =
    kind === 'photograph' ? await photograph(dice, width, height) : drawing(dice, width, height);
  const { format, make } = encoded(dice, picture);
  return { name, kind, format, content: await make };
}

/** Between drawing and photograph: flat woods and water with lines and names, over ground that is shaded finely. */
export async function shadedMap(seed: number, width: number, height: number): Promise<Sharp> {
  const dice = new Dice(seed);
  const relief = clouds(dice, width, height, 14);
  const woods = clouds(dice, width, height, 5);
  const shaded = pixels(dice, width, height, 3, (x, y) => {
    const at = y * width + x;
    const slope = ((relief[at] ?? 0) - (relief[at - 2] ?? relief[at] ?? 0)) * 900;
    return [214 + slope, 206 + slope, 186 + slope];
  });
  const { data, info } = await shaded.raw().toBuffer({ resolveWithObject: true });
  // The flat parts of a map have no grain.
  for (let at = 0; at < width * height; at++)
    if ((woods[at] ?? 0) < 0.62)
      for (let channel = 0; channel < 3; channel++) data[at * 3 + channel] = [226, 232, 214][channel] ?? 0;
  const paths = Array.from(
    { length: 12 },
    () =>
      `<path d="M${dice.between(0, width)} ${dice.between(0, height)}Q${dice.between(0, width)} ${dice.between(0, height)} ${dice.between(0, width)} ${dice.between(0, height)}" fill="none" stroke="#a33" stroke-width="2"/>`,
  ).join('');
  const drawn = `<svg xmlns="http://www.w3.org/2000/svg" width="${width}" height="${height}">${paths}</svg>`;
  const map = await sharp(data, { raw: { width, height, channels: info.channels } })
    .composite([{ input: Buffer.from(drawn) }])
    .png()
    .toBuffer();
  return sharp(map);
}

/** Transparent pictures: a portrait cut out, an icon with a soft shadow, a panel of a program with letters and clear corners. */
export async function cutOut(
  kind: 'portrait' | 'shadow' | 'panel',
  seed: number,
  width: number,
  height: number,
): Promise<Sharp> {
  const dice = new Dice(seed);
  const frame = (body: string) =>
    Buffer.from(`<svg xmlns="http://www.w3.org/2000/svg" width="${width}" height="${height}">${body}</svg>`);
  const oval = `<ellipse cx="${width / 2}" cy="${height / 2}" rx="${width * 0.34}" ry="${height * 0.42}" fill="#fff"/>`;
  const make = async (): Promise<Sharp> => {
    if (kind === 'portrait') {
      const skin = clouds(dice, width, height, 9);
      const photo = await pixels(dice, width, height, 8, (x, y) =>
        mix([92, 60, 48], [236, 190, 160], skin[y * width + x] ?? 0),
      )
        .png()
        .toBuffer();
      return sharp(photo)
        .ensureAlpha()
        .composite([{ input: frame(oval), blend: 'dest-in' }]);
    }
    if (kind === 'shadow') {
      const shadow = await sharp(frame(oval.replace('#fff', '#000')))
        .blur(14)
        .png()
        .toBuffer();
      const face = oval.replace('#fff', '#2a7');
      return sharp(shadow).composite([{ input: frame(`<g transform="translate(-6 -8)">${face}</g>`) }]);
    }
    const lines = Array.from(
      { length: 18 },
      (_, index) =>
        `<text x="30" y="${50 + index * 24}" font-size="15" font-family="sans-serif" fill="#222">${dice.of(words)} ${dice.of(words)} ${dice.of(words)} ${dice.of(words)}</text>`,
    ).join('');
    return sharp(frame(`<rect width="${width}" height="${height}" rx="40" fill="#f4f4f0"/>${lines}`));
  };
  return sharp(await (await make()).png().toBuffer());
}
