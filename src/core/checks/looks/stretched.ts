import { defineCheck, nothingToPaste } from '../../judging/check.js';
import { Drafts, worst } from '../../judging/drafts.js';
import { percent, pixels } from '../../wording/words.js';

type StretchedEvidence = {
  slotWidth: number;
  slotHeight: number;
  file: string;
  /** How much wider, if positive, or higher the picture is drawn than it is, as a share. */
  stretch: number;
};

/** Faces and circles look wrong from about here on. */
const visible = 0.03;

export const stretched = defineCheck<StretchedEvidence>({
  id: 'stretched',
  about: {
    title: 'Keep the picture’s shape',
    means: 'The picture is drawn wider or higher than it is, so what it shows is distorted.',
    evidence: 'The slot in CSS px, the size of the file, and by how much the shapes differ.',
    fix: 'A style that keeps the shape: height: auto where the height is free, else object-fit: cover.',
    silent: 'Up to 3 %, for vector pictures, and when object-fit keeps the shape.',
  },
  cut: null,
  sureness: 'measured: the slot was measured and the file was read',
  words(draft) {
    const found = worst(draft, ({ stretch }) => Math.abs(stretch));
    if (!found) return '';
    const { slotWidth, slotHeight, file, stretch } = found.evidence;
    return `The file of ${file} px is drawn in ${pixels(slotWidth)} × ${pixels(slotHeight)} CSS px on ${found.screen}: ${percent(Math.abs(stretch))} too ${stretch > 0 ? 'wide' : 'high'}.`;
  },
  find(facts) {
    const drafts = new Drafts<StretchedEvidence>();
    for (const placement of facts.placements) {
      if (placement.kind !== 'img' && placement.kind !== 'picture' && placement.kind !== 'input') continue;
      for (const { name } of facts.screens) {
        const [shown, slot] = [placement.shown[name], placement.slots[name]];
        const file = facts.files.get(placement.downloads[name]?.url ?? '');
        if (!shown?.seen || shown.fit !== 'fill' || shown.state !== 'drawn' || !slot || !file) continue;
        if (file.format === 'svg' || file.width === 0 || slot.width < 1 || slot.height < 1) continue;
        const ratio = (slot.width * file.height) / (slot.height * file.width);
        // Small slots are rounded to whole px: that is no distortion.
        const tolerance = visible + 1 / Math.min(slot.width, slot.height);
        if (Math.abs(ratio - 1) <= tolerance && Math.abs(1 / ratio - 1) <= tolerance) continue;
        drafts.add(placement, name, {
          slotWidth: slot.width,
          slotHeight: slot.height,
          file: `${file.width} × ${file.height}`,
          stretch: ratio > 1 ? ratio - 1 : 1 - 1 / ratio,
        });
      }
    }
    return drafts.list();
  },
  remedy: () =>
    nothingToPaste(
      'If only its width is meant, give the image “height: auto”; if the box is meant, “object-fit: cover”.',
    ),
});
