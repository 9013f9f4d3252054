import { defineCheck, nothingToPaste } from '../../judging/check.js';
import { isPulledWide } from '../../layout/pulled-wide.js';
import { looksBlurred, sharpDensity } from '../../layout/sharpness.js';
import { imageOf } from '../../judging/choice.js';
import { Drafts, worst } from '../../judging/drafts.js';
import { slotInWords, widthsIn } from '../../judging/drawn-in.js';
import { group } from '../../wording/words.js';

type UpscaledEvidence = {
  fileWidth: number;
  slotWidth: number;
  /** CSS px at which the slot shows the whole picture, where that is another width than its own. */
  drawnWidth?: number;
  wantedWidth: number;
  upscale: number;
};

/** Icons of this many CSS px across are trifles. */
const smallestDrawn = 33;

export const upscaled = defineCheck<UpscaledEvidence>({
  id: 'upscaled',
  about: {
    title: 'Serve enough pixels',
    means: 'The file has clearly fewer pixels than the screen shows, so the picture is blurred.',
    evidence:
      'The width of the file and of its slot (and that at which it shows the picture, where that is another), the width in device px that the screen shows (up to --sharpness), and by how much the file is enlarged.',
    fix: 'The width to serve; it must come from the original.',
    silent:
      'While the file has three quarters of the pixels that each screen shows, or of those that --sharpness asks for; for vector pictures, for icons of 32 px or less, for pictures whose pixels a style keeps sharp (`image-rendering`), for what is drawn half again as wide as its shape, and for images with width descriptors, of whose ladder another check speaks.',
  },
  cut: null,
  asksForPixels: true,
  sureness: 'exact: the slot was measured and the file was read',
  words(draft) {
    const found = worst(draft, ({ upscale }) => upscale);
    if (!found) return '';
    const { fileWidth, wantedWidth, upscale } = found.evidence;
    return `The file is ${group(fileWidth)} px wide in a ${slotInWords(found.evidence)}; on ${found.screen} ${group(wantedWidth)} px are needed, so it is enlarged ${upscale.toFixed(1)} times.`;
  },
  find(facts) {
    const drafts = new Drafts<UpscaledEvidence>();
    for (const placement of facts.placements) {
      const { kind } = placement;
      if (kind === 'icon-link' || kind === 'preload') continue;
      const byWidths = imageOf(placement)?.sources.some(({ srcset }) =>
        srcset?.candidates.some(({ width }) => width !== undefined),
      );
      if (byWidths) continue;
      for (const screen of facts.screens) {
        const { name } = screen;
        const shown = placement.shown[name];
        const file = facts.files.get(placement.downloads[name]?.url ?? '');
        if (
          !shown?.seen ||
          isPulledWide(shown) ||
          !file ||
          file.format === 'svg' ||
          file.width === 0 ||
          shown.drawnWidth < smallestDrawn
        )
          continue;
        const wantedWidth = Math.round(shown.drawnWidth * sharpDensity(screen, facts.wishes.sharpness));
        if (!looksBlurred(file.width, wantedWidth)) continue;
        const upscale = wantedWidth / file.width;
        drafts.add(placement, name, {
          fileWidth: file.width,
          ...widthsIn(placement, name),
          wantedWidth,
          upscale,
        });
      }
    }
    return drafts.list();
  },
  remedy(draft) {
    const wanted = Math.max(...Object.values(draft.screens).map(({ wantedWidth }) => wantedWidth));
    return nothingToPaste(`Export the picture anew from the original, ${group(wanted)} px wide.`);
  },
});
