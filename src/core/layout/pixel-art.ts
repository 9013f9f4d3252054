import type { Placement, Screen } from '../run/types.js';

/**
 * Whether each pixel of a picture is to be seen for itself: a style keeps them sharp (`image-rendering`) and some screen shows them larger than they
 * are. Of pictures that are only made smaller such a style says nothing: it is used on photographs too.
 */
export const isPixelArt = ({ shown }: Pick<Placement, 'shown'>, screens: readonly Screen[]): boolean =>
  screens.some(({ name, density }) => {
    const seen = shown[name];
    return seen?.pixelated === true && seen.fileWidth > 0 && seen.drawnWidth * density > seen.fileWidth;
  });
