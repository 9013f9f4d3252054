import type { Price } from '../bytes/price-list.js';
import type { ImageFile, Placement } from '../run/types.js';
import type { Facts } from './facts.js';

/** The file that a placement takes on a screen, as far as the findings before have changed it. */
export interface FileState {
  /** Equal for equal files, so that a file which several placements share is counted once. */
  key: string;
  /** The file that is there, or from which this one is made. */
  url: string;
  format: string;
  /** Device px. */
  width: number;
  bytes: number;
  /** 0 when the bytes are known exactly; else how far they may be off, as a share. */
  error: number;
}

export const stateKey = (placement: Placement, screen: string) => `${screen} ${placement.id}`;

/** By `stateKey`; what is not in it is as it was delivered. */
export type StateTable = ReadonlyMap<string, FileState>;

export function existingFile({ url, format, width, bytes }: ImageFile): FileState {
  return { key: url, url, format, width, bytes, error: 0 };
}

/** A file to be made from another. */
export function fileToMake(
  url: string,
  format: string,
  width: number,
  { bytes, error, quality }: Price,
): FileState {
  return { key: `${url} ${width} ${format} ${quality ?? 'lossless'}`, url, format, width, bytes, error };
}

/** What a placement takes on a screen now; undefined where it downloads nothing or the file cannot be read. */
export function stateOn(placement: Placement, screen: string, facts: Facts): FileState | undefined {
  const changed = facts.states.get(stateKey(placement, screen));
  if (changed) return changed;
  const download = placement.downloads[screen];
  const file = download && facts.files.get(download.url);
  return file && file.problem === undefined ? { ...existingFile(file), bytes: download.bytes } : undefined;
}

/** Two pictures whose ratios differ by more than this are different crops. */
const sameRatio = 0.02;

/** The file by which a state is priced: the placement's best source if it shows the same, which spares a second loss. */
export function pricedFile(placement: Placement, state: FileState, facts: Facts): ImageFile | undefined {
  const best = bestSource(placement, state, facts);
  return best && facts.prices.has(best.url) ? best : facts.files.get(state.url);
}

/** The placement's best source if it shows the same as a state, else the state's own file. */
export function bestSource(placement: Placement, state: FileState, facts: Facts): ImageFile | undefined {
  const own = facts.files.get(state.url);
  const master = facts.proposals.get(placement.id)?.master;
  if (!own || !master || own === master) return own;
  const ratio = (own.width * master.height) / Math.max(1, own.height * master.width);
  return Math.abs(ratio - 1) <= sameRatio && master.width >= state.width ? master : own;
}
