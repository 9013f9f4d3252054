import { neededWidth } from '../../layout/needed-width.js';
import { isPulledWide } from '../../layout/pulled-wide.js';
import { looksBlurred, sharpDensity } from '../../layout/sharpness.js';
import { choiceOn } from '../../judging/choice.js';
import { nothingToPaste, defineCheck, type Draft, type Remedy } from '../../judging/check.js';
import { Drafts, worst } from '../../judging/drafts.js';
import { group, listed } from '../../wording/words.js';

type ShortEvidence = {
  /** Device px. */
  largestWidth: number;
  /** Device px that the screen could show. */
  wantedWidth: number;
  upscale: number;
};

/** Larger files cannot be made from what is there, so no tag is written that would name them. */
function remedy({ screens }: Draft<ShortEvidence>): Remedy {
  const wanted = [...new Set(Object.values(screens).map(({ wantedWidth }) => wantedWidth))].sort(
    (a, b) => a - b,
  );
  return nothingToPaste(
    `Export the picture anew from the original, ${listed(wanted.map((width) => group(width)))} px wide, and add ${wanted.length === 1 ? 'the file' : 'the files'} to srcset with ${listed(wanted.map((width) => `${width}w`))}.`,
  );
}

export const ladderTooShort = defineCheck<ShortEvidence>({
  id: 'ladder-too-short',
  about: {
    title: 'Offer larger widths',
    means:
      'The largest file that srcset offers is smaller than what the screen can show, so the picture is blurred.',
    evidence:
      'The largest width offered, the width in device px that the screen can show (up to --sharpness), and by how much the file is enlarged.',
    fix: 'The widths to export from the original: they cannot be made from what is there.',
    silent:
      'While the largest file has three quarters of the pixels that each screen can show, or of those that --sharpness asks for; for what is drawn half again as wide as its shape.',
  },
  cut: null,
  asksForPixels: true,
  sureness: 'exact: the slot was measured and the files were read',
  words(draft) {
    const found = worst(draft, ({ upscale }) => upscale);
    if (!found) return '';
    const { largestWidth, wantedWidth, upscale } = found.evidence;
    return `The largest file offered is ${group(largestWidth)} px wide; on ${found.screen} ${group(wantedWidth)} px are needed, so it is enlarged ${upscale.toFixed(1)} times.`;
  },
  find(facts) {
    const drafts = new Drafts<ShortEvidence>();
    for (const placement of facts.placements) {
      for (const screen of facts.screens) {
        const choice = choiceOn(placement, screen, facts);
        const shown = placement.shown[screen.name];
        if (!choice || choice.file.format === 'svg' || !shown || isPulledWide(shown)) continue;
        const largestWidth = Math.max(...choice.source.rungs.map(({ file }) => file.width));
        const wantedWidth = neededWidth(
          choice.drawn,
          sharpDensity(screen, facts.wishes.sharpness),
          Number.POSITIVE_INFINITY,
        );
        if (!looksBlurred(largestWidth, wantedWidth)) continue;
        const upscale = wantedWidth / largestWidth;
        drafts.add(placement, screen.name, { largestWidth, wantedWidth, upscale });
      }
    }
    return drafts.list();
  },
  remedy,
});
