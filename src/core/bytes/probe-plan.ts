import { tellsItsSetting } from './own-setting.js';

/** What a plan needs to know of a picture. */
export interface ProbedPicture {
  format: string;
  width: number;
  height: number;
  /** On the usual scale of its format; null where it is not told. */
  quality: number | null;
  lossless: boolean;
}

/** The quality of the plain progressive JPEG that stands for "looks the same", unless the user is stricter or less strict. */
export const usualLooks = 73;

/** From this share of its own width on, a lossy file is compared with itself as it is, not with a picture made smaller. */
export const sameSize = 0.9;

/**
 * The quality that sets the likeness to reach at a width, px. At its own size a file need not look better than it does; made
 * smaller, its faults are gone.
 */
export function standardQuality(
  { format, quality, width: own, lossless }: ProbedPicture,
  width: number,
  looks: number,
): number {
  const asItIs = !lossless && width > own * smallProbe * 1.01;
  return asItIs && quality !== null && tellsItsSetting({ format, quality })
    ? Math.min(looks, quality)
    : looks;
}

/**
 * Where a lossy file is probed for its price at its own size: an encode at exactly its size would be compared with the file's own
 * faults, block by block, and come out far too large.
 */
const smallProbe = 0.5;

/** Nothing larger is encoded to look for a quality: it would take more memory and time than a saving at such sizes is worth knowing exactly. */
export const mostProbedPixels = 6_000_000;
/**
 * What a fix makes is encoded once with a quality that is known, so that it weighs what is promised: photographs of any usual camera too. An
 * AVIF takes some 25 bytes of memory a pixel, others 10.
 */
export const mostMadePixels = (format: string): number => (format === 'avif' ? 50_000_000 : 100_000_000);

/** At most so many widths of one picture are encoded, unless all are wanted. */
const mostProbes = 4;

/** Widths whose price is asked for, px. */
export interface WantedWidths {
  /** Of files to be made. */
  make: readonly number[];
  /** Of files that are there. */
  have: readonly number[];
}

/** Nearer to a probe than this ratio, an estimate needs no probe of its own. */
const nearEnough = 1.05;

/** Whether a width of a lossy file counts as its own, px. */
export const isOwnSize = (
  { width: own, lossless }: Pick<ProbedPicture, 'width' | 'lossless'>,
  width: number,
) => !lossless && width > own * sameSize;

/** Whether a price at the picture's own size is asked for, where a lossy file is not probed. */
export const wantsOwnSize = (picture: ProbedPicture, { make, have }: WantedWidths): boolean =>
  [...make, ...have].some((width) => isOwnSize(picture, width));

/**
 * The widths at which a picture is to be encoded, ascending, px: those of the files to be made, and what it takes to have those that
 * are there lie between two of them.
 * @param all encode at every wanted width where that can be done
 */
export function planProbes(picture: ProbedPicture, { make, have }: WantedWidths, all = false): number[] {
  const { width: own, height } = picture;
  const cap = Math.floor(Math.min(own, own * Math.sqrt(mostProbedPixels / Math.max(1, own * height))));
  const isSameSize = (width: number) => isOwnSize(picture, width);
  const smaller = (widths: readonly number[]) => [
    ...new Set(
      widths.filter((width) => !isSameSize(width)).map((width) => Math.max(1, Math.min(width, cap))),
    ),
  ];
  const chosen = all ? smaller([...make, ...have]) : spread(smaller(make), mostProbes);
  if (wantsOwnSize(picture, { make, have }))
    for (const share of [smallProbe, sameSize]) chosen.push(Math.min(cap, Math.round(own * share)));
  const present = smaller(have);
  for (const end of [Math.min(...present), Math.max(...present)]) {
    if (!Number.isFinite(end)) continue;
    const [low, high] = [Math.min(...chosen), Math.max(...chosen)];
    if (chosen.length === 0 || end * nearEnough < low || end > high * nearEnough) chosen.push(end);
  }
  return [...new Set(chosen)].sort((a, b) => a - b);
}

/** Keeps the ends and those between that lie farthest from each other, by ratio. */
function spread(widths: readonly number[], most: number): number[] {
  const sorted = [...widths].sort((a, b) => a - b);
  while (sorted.length > most) {
    let least = { index: 1, ratio: Number.POSITIVE_INFINITY };
    for (let index = 1; index < sorted.length - 1; index++) {
      const ratio = (sorted[index + 1] ?? 1) / (sorted[index - 1] ?? 1);
      if (ratio < least.ratio) least = { index, ratio };
    }
    sorted.splice(least.index, 1);
  }
  return sorted;
}
