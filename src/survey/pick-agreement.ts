import type { ImageFile, PickAgreement, PickDisagreement, Placement } from '../core/run/index.js';

/**
 * Compares predicted with observed picks. Images that were never asked for have nothing to compare.
 * @param wasSeen whether a page was visited on a screen
 */
export function comparePicks(
  placements: readonly Placement[],
  strategy: string,
  files: ReadonlyMap<string, ImageFile>,
  wasSeen: (page: string, screen: string) => boolean,
): PickAgreement {
  let compared = 0;
  const disagreements: PickDisagreement[] = [];
  for (const placement of placements) {
    const { id, page, kind, picks, shown } = placement;
    if (kind !== 'img' && kind !== 'picture') continue;
    for (const [screen, { predicted, observed }] of Object.entries(picks)) {
      if (shown[screen]?.state === 'not-loaded' || !wasSeen(page, screen)) continue;
      compared++;
      if (predicted === observed) continue;
      disagreements.push({
        placement: id,
        screen,
        predicted,
        observed,
        reason: reasonOf(placement, predicted, observed, files),
      });
    }
  }
  return { strategy, compared, agree: compared - disagreements.length, disagreements };
}

/** What is known to make a browser take another file than its rules say. */
function reasonOf(
  { candidates }: Placement,
  predicted: string | null,
  observed: string | null,
  files: ReadonlyMap<string, ImageFile>,
): string {
  if (observed === null) return 'the browser had not chosen yet, or a script took the address away';
  if (!candidates.includes(observed)) return 'a script gave the image another address';
  const width = (url: string | null) => (url === null ? 0 : (files.get(url)?.width ?? 0));
  if (width(observed) > width(predicted)) return 'a larger file was already loaded, and browsers keep that';
  return 'not known';
}
