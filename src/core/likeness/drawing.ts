import type { Pixels } from './luma.js';

/** What tells a drawing from a photograph, also after a lossy encoder has blurred it. Shares, 0 to 1. */
export interface DrawingSigns {
  /** Of the blocks away from edges, those in which nothing changes: in photographs light and grain go on everywhere. */
  still: number;
  /** The same without the blocks of the ground, the colour that is there most: things are photographed on white too. */
  stillBesideGround: number;
  /** Of the still blocks beside the ground, those in one of the few colours that are there most: skies are still too, in a hundred shades. */
  fewColours: number;
  /** Of all blocks, those that are neither ground nor near an edge. */
  beside: number;
  /** Of all blocks, those with an edge that an encoder could not hide. */
  edges: number;
}

const side = 8;

/** Steps in a channel: up to this nothing changes but for the traces of a lossy encoder, … */
const stillRange = 6;
/** … and from this on it is an edge. */
const edgeStep = 40;

/** Colours that are nearer than this in every channel are one. */
const sameColour = 6;
/** So many colours are few. */
const few = 12;

/** Blocks of 8 × 8 px: how many have an edge, how many of the others are still, and in how many colours. */
export function drawingSigns({ data, width, height, channels }: Pixels): DrawingSigns {
  const columns = Math.floor(width / side);
  const rows = Math.floor(height / side);
  const colours = channels < 3 ? 1 : 3;
  const edge = new Uint8Array(columns * rows);
  const range = new Float32Array(columns * rows);
  const mean = new Float32Array(columns * rows * colours);
  for (let row = 0; row < rows; row++)
    for (let column = 0; column < columns; column++) {
      const block = row * columns + column;
      for (let channel = 0; channel < colours; channel++) {
        let low = 255;
        let high = 0;
        let sum = 0;
        let step = 0;
        for (let y = row * side; y < (row + 1) * side; y++) {
          let at = (y * width + column * side) * channels + channel;
          let before = data[at] ?? 0;
          for (const end = at + side * channels; at < end; at += channels) {
            const value = data[at] ?? 0;
            if (value < low) low = value;
            if (value > high) high = value;
            const change = value < before ? before - value : value - before;
            if (change > step) step = change;
            before = value;
            sum += value;
          }
        }
        range[block] = Math.max(range[block] ?? 0, high - low);
        if (step >= edgeStep || high - low >= edgeStep * 2) edge[block] = 1;
        mean[block * colours + channel] = sum / (side * side);
      }
    }
  return signsOf({ columns, rows, colours, edge, range, mean });
}

interface Blocks {
  columns: number;
  rows: number;
  colours: number;
  edge: Uint8Array;
  range: Float32Array;
  mean: Float32Array;
}

function signsOf({ columns, rows, colours, edge, range, mean }: Blocks): DrawingSigns {
  let [edges, calm, still] = [0, 0, 0];
  const palette: { colour: number[]; count: number }[] = [];
  for (let row = 0; row < rows; row++)
    for (let column = 0; column < columns; column++) {
      const block = row * columns + column;
      if (edge[block]) edges++;
      // Encoders leave traces around edges: the blocks beside them tell nothing.
      if (besideEdge(edge, columns, rows, column, row)) continue;
      calm++;
      if ((range[block] ?? 0) > stillRange) continue;
      still++;
      const colour = Array.from({ length: colours }, (_, channel) => mean[block * colours + channel] ?? 0);
      const known = palette.find((each) =>
        each.colour.every((value, channel) => Math.abs(value - (colour[channel] ?? 0)) <= sameColour),
      );
      if (known) known.count++;
      else if (palette.length < mostColours) palette.push({ colour, count: 1 });
    }
  const [ground = 0, ...others] = palette.map(({ count }) => count).sort((a, b) => b - a);
  const blocks = Math.max(1, columns * rows);
  const common = others.slice(0, few).reduce((sum, count) => sum + count, 0);
  const share = (part: number, whole: number) => (whole === 0 ? 1 : part / whole);
  return {
    edges: edges / blocks,
    still: share(still, calm),
    stillBesideGround: share(still - ground, calm - ground),
    fewColours: share(common, still - ground),
    beside: (calm - ground) / blocks,
  };
}

/** Beyond this nobody calls them few. */
const mostColours = 256;

function besideEdge(edge: Uint8Array, columns: number, rows: number, column: number, row: number): boolean {
  for (let y = Math.max(0, row - 1); y <= Math.min(rows - 1, row + 1); y++)
    for (let x = Math.max(0, column - 1); x <= Math.min(columns - 1, column + 1); x++)
      if (edge[y * columns + x]) return true;
  return false;
}
