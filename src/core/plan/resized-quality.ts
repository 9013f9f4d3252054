import { tellsItsSetting } from '../bytes/own-setting.js';
import type { ImageFile } from '../run/types.js';
import { sameShape } from './changes.js';
import { shapeDifference } from './shape-difference.js';

type Version = Pick<ImageFile, 'format' | 'quality' | 'width' | 'height'>;

/**
 * The quality with which smaller versions of a JPEG are made as it is now: that of those which are offered beside it already. A site's own
 * build mostly makes them with a lower one than its originals have. It is never lower than the one of equal looks, unless the file's own is.
 * @param offered the files that are offered beside it, other pictures among them
 * @param looks JPEG quality that stands for equal looks
 * @returns undefined where the file does not tell
 */
export function resizedQuality(
  file: Version,
  offered: readonly Version[],
  looks: number,
): number | undefined {
  const { quality: own } = file;
  if (own === null || !tellsItsSetting(file)) return undefined;
  const smaller = offered.filter(
    (each) => each.width < file.width && shapeDifference(each, file) <= sameShape && tellsItsSetting(each),
  );
  const theirs = smaller.map(({ quality }) => quality ?? own);
  return Math.min(own, Math.max(looks, Math.min(own, ...theirs)));
}
