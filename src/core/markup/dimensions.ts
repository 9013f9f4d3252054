import type { ParsedImage } from './image-source.js';

/** The width and height that give a box its ratio before the file is there. */
export interface Dimensions {
  width: number;
  height: number;
}

/**
 * The dimension attributes that count for a pick: those of the `source` that was taken, where it has one of the two, else those of
 * the `img`. HTML standard, 4.8.4.3 "dimension attribute source".
 * @returns undefined where they give no ratio
 */
export function dimensionsFor(image: ParsedImage, { source }: { source: number }): Dimensions | undefined {
  const taken = image.sources[source];
  const own = taken && (taken.width !== null || taken.height !== null) ? taken : image.sources.at(-1);
  const width = dimension(own?.width);
  const height = dimension(own?.height);
  return width && height ? { width, height } : undefined;
}

/** HTML standard, 2.3.4.4 "rules for parsing dimension values"; percentages give no ratio. */
function dimension(text: string | null | undefined): number | undefined {
  const match = /^[\t\n\f\r ]*(\d+(?:\.\d+)?)(%?)/.exec(text ?? '');
  return match && match[2] === '' ? Number(match[1]) : undefined;
}
