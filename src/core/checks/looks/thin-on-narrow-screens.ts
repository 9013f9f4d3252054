import { neededWidth } from '../../layout/needed-width.js';
import { looksBlurred, sharpDensity } from '../../layout/sharpness.js';
import { sizesToWrite } from '../../judging/choice.js';
import type { Change } from '../../plan/changes.js';
import type { OfferedCrop, Placement } from '../../run/types.js';
import { defineCheck, nothingToPaste, type Draft } from '../../judging/check.js';
import { Drafts, worst } from '../../judging/drafts.js';
import type { Facts } from '../../judging/facts.js';
import { group, pixels } from '../../wording/words.js';

type ThinEvidence = {
  width: number;
  height: number;
  url: string;
  /** Device px across that the screen can show of a crop. */
  wantedWidth: number;
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
    for (const { name, width, density } of facts.screens) {
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
      const sharp = sharpDensity({ density }, facts.wishes.sharpness);
      const wantedWidth = neededWidth(slot.width, sharp, Number.POSITIVE_INFINITY);
      drafts.add(placement, name, { width: slot.width, height: slot.height, url, wantedWidth });
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
    fix: 'A picture with a crop for narrow screens, cut out where most happens in it: by hand, or with --crops as text to paste with files to make.',
    silent:
      'From 100 CSS px of height, for pictures that take less than 60 % of the screen’s width, and when the picture has sources for narrow screens.',
  },
  cut: null,
  asksForPixels: true,
  sureness: 'measured',
  words(draft) {
    const found = worst(draft, ({ height }) => -height);
    if (!found) return '';
    const { width, height } = found.evidence;
    return `On ${found.screen} it is ${pixels(width)} CSS px wide and only ${pixels(height)} px high.`;
  },
  find: findThin,
  wants(facts) {
    const widths = new Map<string, Set<number>>();
    for (const { screens } of findThin(facts))
      for (const { url, wantedWidth } of Object.values(screens))
        widths.set(url, (widths.get(url) ?? new Set()).add(wantedWidth));
    return [...widths]
      .sort(([one], [other]) => (one < other ? -1 : 1))
      .map(([url, wanted]) => ({ kind: 'crop', url, widths: [...wanted].sort((a, b) => a - b) }));
  },
  remedy({ placement, screens }, facts) {
    const [evidence] = Object.values(screens);
    const crop = evidence && facts.crops.get(evidence.url);
    if (!evidence || !crop) return nothingToPaste();
    const { url } = evidence;
    const media = `(max-width: ${narrow}px)`;
    const where = `${group(crop.width)} × ${group(crop.height)} px at ${group(crop.x)}, ${group(crop.y)} out of ${url} (${group(crop.of.width)} × ${group(crop.of.height)} px)`;
    const why = whyByHand(placement, screens, crop);
    if (facts.wishes.crops && why === undefined) {
      const sizes = sizesToWrite(placement, facts) ?? '100vw';
      const changes: Change[] = [{ kind: 'offer-crop', url, crop, media, sizes }];
      // The dimensions of the crop would give the box its height.
      if (Object.values(placement.shown).some(({ heightFrom }) => heightFrom === 'nothing'))
        changes.push({ kind: 'edit', edits: [{ kind: 'add-style', declaration: 'height: auto' }] });
      return {
        changes,
        notes: [`Look at the crop: it is ${where}, where lines and edges say that most happens.`],
      };
    }
    return nothingToPaste(
      `Cut ${where}: most happens there. Make it in the format that the tag offers first.`,
      `Put it before all other sources of the picture: <source media="${media}" srcset="…" width="${crop.width}" height="${crop.height}">; it needs its own width and height, since its shape is another.`,
      why === undefined
        ? 'With --crops this one is made and written into the tag; look at it then.'
        : `--crops leaves this one to you: ${why}.`,
    );
  },
});

/** Why a crop cannot be written into a tag unseen. */
function whyByHand(
  { shown, slots }: Placement,
  screens: Readonly<Record<string, ThinEvidence>>,
  crop: OfferedCrop,
): string | undefined {
  const wanted = Math.max(...Object.values(screens).map(({ wantedWidth }) => wantedWidth));
  if (looksBlurred(crop.width, wanted))
    return `the file is too low for it, a sharp crop takes ${group(wanted)} px across; export one from the original`;
  for (const name of Object.keys(screens)) {
    const [box, slot] = [shown[name], slots[name]];
    if (!box || !slot) continue;
    // A height that does not follow the file would squeeze the crop into it.
    if (box.heightFrom === 'style' || box.heightFrom === 'attribute')
      return 'something gives the box its height, which has to be freed on narrow screens first';
    const followsFile = box.widthFrom === 'nothing' || box.widthFrom === 'attribute';
    if (followsFile && !(box.limitWidth !== null && box.limitWidth <= Math.min(slot.width + 1, crop.width)))
      return 'the box is as wide as its file, so another file would change it';
  }
  return undefined;
}
