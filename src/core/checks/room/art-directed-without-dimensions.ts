import { readImageMarkup } from '../../markup/index.js';
import { defineCheck } from '../../judging/check.js';
import { shiftEvidence, shiftInWords } from '../../judging/arrival-shift.js';
import { cropEdits, noticeable, otherShape } from '../../judging/dimensions.js';
import { Drafts, worst } from '../../judging/drafts.js';
import { pixels } from '../../wording/words.js';

type CropEvidence = {
  url: string;
  file: string;
  reservedHeight: number;
  finalHeight: number;
  /** Layout-shift value that the image causes when it comes, in the first view. */
  shift: number;
  moved: string | null;
};

export const artDirectedWithoutDimensions = defineCheck<CropEvidence>({
  id: 'art-directed-without-dimensions',
  about: {
    title: 'Give each crop its own dimensions',
    means:
      'On some screens the picture shows another crop, but the room is kept in the shape of the usual one, so the page jumps.',
    evidence:
      'The crop with its size, and the height of the box before and after it came, on the screens that take it.',
    fix: 'The picture with width and height on each source.',
    silent:
      'When the sources have dimensions, when their crops have the shape of the usual one, and when the style sheet gives the box its shape.',
  },
  cut: null,
  sureness: 'measured: the box was compared before and after the image came',
  words(draft) {
    const found = worst(draft, ({ reservedHeight, finalHeight }) => Math.abs(finalHeight - reservedHeight));
    if (!found) return '';
    const { url, file, reservedHeight, finalHeight } = found.evidence;
    return `On ${found.screen} the crop ${url} is ${file}, but its source has no dimensions: the box is ${pixels(reservedHeight)} px high while waiting and ${pixels(finalHeight)} px when the image has come.${shiftInWords(found.evidence)}`;
  },
  find(facts) {
    const drafts = new Drafts<CropEvidence>();
    for (const placement of facts.placements) {
      if (placement.kind !== 'picture') continue;
      const markup = readImageMarkup(placement.markup);
      const bare =
        markup?.sources.some(
          ({ media, width }) => (media ?? undefined) !== undefined && (width ?? undefined) === undefined,
        ) ?? false;
      // Without dimensions on the img nothing is kept at all, of which another check speaks.
      if (!bare || !markup?.img.width || !markup.img.height) continue;
      const ratio = Number.parseFloat(markup.img.width) / Number.parseFloat(markup.img.height);
      for (const { name } of facts.screens) {
        const [shown, slot, download] = [
          placement.shown[name],
          placement.slots[name],
          placement.downloads[name],
        ];
        const file = download && facts.files.get(download.url);
        if (!shown?.whileWaiting || !slot || !file || file.height === 0) continue;
        const reservedHeight = shown.whileWaiting.height;
        if (Math.abs(slot.height - reservedHeight) < noticeable) continue;
        if (Math.abs(file.width / file.height / ratio - 1) < otherShape) continue;
        drafts.add(placement, name, {
          url: file.url,
          file: `${file.width} × ${file.height}`,
          reservedHeight,
          finalHeight: slot.height,
          ...shiftEvidence(placement, name, facts),
        });
      }
    }
    return drafts.list();
  },
  remedy({ placement }, facts) {
    const image = readImageMarkup(placement.markup)?.img;
    const size = {
      width: Number.parseFloat(image?.width ?? ''),
      height: Number.parseFloat(image?.height ?? ''),
    };
    return { changes: [{ kind: 'edit', edits: cropEdits(placement, size, facts) }], notes: [] };
  },
});
