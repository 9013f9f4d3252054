import type { Placement } from '../../run/types.js';
import { defineCheck, nothingToPaste, type Draft } from '../../judging/check.js';
import { Drafts, worst } from '../../judging/drafts.js';
import type { Facts } from '../../judging/facts.js';
import { group, pixels } from '../../wording/words.js';

type ThinEvidence = {
  width: number;
  height: number;
  url: string;
};

/** A subject is hard to make out in less than this, CSS px. */
const thin = 100;
/** Screens up to this width are narrow, CSS px. */
const narrow = 480;
/** Below this share of the screen's width a picture is a sign or a thumbnail, not a view. */
const wideShare = 0.6;
/** Less wide pictures are no panoramas. */
const leastRatio = 2.5;

/** The widest file of the same picture, to cut from. */
function largestOf({ candidates }: Placement, delivered: string, { files }: Facts): string {
  const own = files.get(delivered);
  let best = own;
  for (const url of candidates) {
    const file = files.get(url);
    if (!own || !file || file.problem !== undefined || file.height === 0) continue;
    const sameShape = Math.abs((file.width * own.height) / (file.height * own.width) - 1) < 0.03;
    if (sameShape && file.width > (best?.width ?? 0)) best = file;
  }
  return best?.url ?? delivered;
}

function findThin(facts: Facts): Draft<ThinEvidence>[] {
  const drafts = new Drafts<ThinEvidence>();
  for (const placement of facts.placements) {
    if (placement.kind !== 'img' && placement.kind !== 'picture') continue;
    for (const { name, width } of facts.screens) {
      const [slot, shown, download] = [
        placement.slots[name],
        placement.shown[name],
        placement.downloads[name],
      ];
      if (!slot || !shown?.seen || !download || width > narrow) continue;
      if (slot.height >= thin || slot.width < width * wideShare || slot.width / slot.height < leastRatio)
        continue;
      if (shown.fit !== 'fill') continue;
      if (facts.files.get(download.url)?.format === 'svg') continue;
      const url = largestOf(placement, download.url, facts);
      drafts.add(placement, name, { width: slot.width, height: slot.height, url });
    }
  }
  return drafts.list();
}

export const thinOnNarrowScreens = defineCheck<ThinEvidence>({
  id: 'thin-on-narrow-screens',
  about: {
    title: 'Show a crop on narrow screens',
    means: 'The wide picture is only a stripe on a phone, and its subject a few dots high.',
    evidence: 'The slot in CSS px on the narrow screens.',
    fix: 'A picture with a crop for narrow screens, cut out where most happens in it.',
    silent:
      'From 100 CSS px of height, for pictures that take less than 60 % of the screen’s width, and when the picture has sources for narrow screens.',
  },
  cut: null,
  sureness: 'measured',
  words(draft) {
    const found = worst(draft, ({ height }) => -height);
    if (!found) return '';
    const { width, height } = found.evidence;
    return `On ${found.screen} it is ${pixels(width)} CSS px wide and only ${pixels(height)} px high.`;
  },
  find: findThin,
  wants: (facts) =>
    [...new Set(findThin(facts).flatMap(({ screens }) => Object.values(screens).map(({ url }) => url)))]
      .sort()
      .map((url) => ({ kind: 'crop', url })),
  remedy({ screens }, facts) {
    const [evidence] = Object.values(screens);
    const crop = evidence && facts.crops.get(evidence.url);
    if (!evidence || !crop) return nothingToPaste();
    return nothingToPaste(
      `Cut ${group(crop.width)} × ${group(crop.height)} px at ${group(crop.x)}, ${group(crop.y)} out of ${evidence.url} (${group(crop.of.width)} × ${group(crop.of.height)} px): most happens there. Make it in the format that the tag offers first.`,
      `Put it before all other sources of the picture: <source media="(max-width: ${narrow}px)" srcset="…" width="${crop.width}" height="${crop.height}">; it needs its own width and height, since its shape is another.`,
    );
  },
});
