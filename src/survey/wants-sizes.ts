import { canBeWorthwhile } from '../core/bytes/worthwhile.js';
import type { TrifleLimits } from '../core/bytes/trifles.js';
import { parseImage, readImageMarkup } from '../core/markup/index.js';
import type { ImageFile, Placement } from '../core/run/index.js';

/** Whether the placement has, or should have, width descriptors, so that its `sizes` matters. */
export function wantsSizes(
  placement: Placement,
  files: ReadonlyMap<string, ImageFile>,
  trifles: TrifleLimits,
): boolean {
  if ((placement.kind !== 'img' && placement.kind !== 'picture') || placement.frames) return false;
  const markup = readImageMarkup(placement.markup);
  const written = markup
    ? parseImage(markup).sources.some(({ srcset }) =>
        srcset?.candidates.some(({ width }) => width !== undefined),
      )
    : false;
  if (written) return true;
  return Object.entries(placement.downloads).some(([screen, { url, bytes }]) => {
    const from = files.get(url)?.width ?? 0;
    // At density 1 the drawn width is what is needed; a rough sieve before the sweep.
    return canBeWorthwhile(bytes, from, placement.shown[screen]?.drawnWidth ?? from, trifles);
  });
}
