import { readImageMarkup } from '../markup/index.js';
import type { TagEdit } from '../fixes/tag.js';
import type { ImageFile, Placement } from '../run/types.js';
import { defineCheck, type Evidence } from './check.js';
import { shiftEvidence, shiftInWords } from './arrival-shift.js';
import { Drafts, worst } from './drafts.js';
import type { Facts } from './facts.js';
import { parseImage } from '../markup/index.js';
import { pixels } from './words.js';

interface CropEvidence extends Evidence {
  url: string;
  file: string;
  reservedHeight: number;
  finalHeight: number;
  /** Layout-shift value that the image causes when it comes, in the first view. */
  shift: number;
  moved: string | null;
}

/** Less than this moves nothing that a reader would notice, CSS px. */
const noticeable = 2;

/** The first file of each source whose size is known, by the source's position. */
function sourceFiles(placement: Placement, facts: Facts): (ImageFile | undefined)[] {
  const markup = readImageMarkup(placement.markup);
  if (!markup) return [];
  let next = 0;
  return parseImage(markup).sources.map(({ srcset }) => {
    const urls = placement.candidates.slice(next, next + (srcset?.candidates.length ?? 0));
    next += srcset?.candidates.length ?? 0;
    return urls.map((url) => facts.files.get(url)).find((file) => file !== undefined && file.width > 0);
  });
}

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
        if (Math.abs(file.width / file.height / ratio - 1) < 0.02) continue;
        drafts.add(placement, name, {
          saves: 0,
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
    const edits = sourceFiles(placement, facts).flatMap((file, index): TagEdit[] =>
      file
        ? [
            { kind: 'set-on-source', index, name: 'width', value: String(file.width) },
            { kind: 'set-on-source', index, name: 'height', value: String(file.height) },
          ]
        : [],
    );
    return { edits, files: [], notes: [] };
  },
});
