import type { ImageFile, Placement } from '../run/types.js';
import type { Facts } from './facts.js';

export interface DeliveredFile {
  placement: Placement;
  screen: string;
  file: ImageFile;
}

/** The file that each placement downloads on each screen, as far as it is one of the site. */
export function* deliveredFiles({ placements, screens, files }: Facts): Generator<DeliveredFile> {
  for (const placement of placements)
    for (const { name: screen } of screens) {
      const file = files.get(placement.downloads[screen]?.url ?? '');
      if (file) yield { placement, screen, file };
    }
}
