import { defineCheck, nothingToPaste } from '../../judging/check.js';
import { deliveredFiles } from '../../judging/delivered-files.js';
import { Drafts } from '../../judging/drafts.js';
import { bytesInWords } from '../../wording/words.js';

type WrapEvidence = {
  url: string;
  bytes: number;
  embeddedBytes: number;
};

/** A picture of so many bytes as text takes a third more; from this share of the file on there is little else. */
const littleElse = 0.9;
const asText = 4 / 3;

export const rasterInVector = defineCheck<WrapEvidence>({
  id: 'raster-in-vector',
  about: {
    title: 'Serve the picture without its wrapping',
    means:
      'A vector file that only wraps a picture of pixels: it is a third larger than that picture, has one size for all screens, and is not sharper for being an SVG.',
    evidence: 'The bytes of the file, and those of the pictures in it.',
    fix: 'Nothing can be pasted: take the picture out, and serve it in the widths and formats of a photograph; or draw it as vectors.',
    silent: 'When pictures make up less than nine tenths of the file, or weigh under the limit for trifles.',
  },
  cut: null,
  sureness: 'exact: read in the file',
  words(draft) {
    const [evidence] = Object.values(draft.screens);
    return evidence
      ? `${evidence.url} wraps a picture of pixels: of its ${bytesInWords(evidence.bytes)} the picture itself takes ${bytesInWords(evidence.embeddedBytes)}, as text a third more.`
      : '';
  },
  find(facts) {
    const drafts = new Drafts<WrapEvidence>();
    for (const { placement, screen, file } of deliveredFiles(facts)) {
      const { url, bytes, embedded } = file;
      if (embedded >= facts.wishes.trifles.trifleBytes && embedded * asText >= bytes * littleElse)
        drafts.add(placement, screen, { url, bytes, embeddedBytes: embedded });
    }
    return drafts.list();
  },
  remedy: () => nothingToPaste('As a file of its own it can have widths for each screen and a newer format.'),
});
