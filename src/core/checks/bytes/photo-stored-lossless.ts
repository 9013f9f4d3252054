import type { ImageFile } from '../../run/types.js';
import { defineCheck } from '../../judging/check.js';
import { bestOutcome } from '../../judging/drafts.js';
import { encodedBytes, findEncodings, reencodings, type EncodingEvidence } from '../../judging/encodings.js';
import { bytesInWords, percent } from '../../wording/words.js';

/** The plainest format that can hold the picture: JPEG has no transparency. */
const lossyFormat = ({ alpha }: ImageFile) => (alpha === 'used' ? 'webp' : 'jpeg');

export const photoStoredLossless = defineCheck<EncodingEvidence>({
  id: 'photo-stored-lossless',
  about: {
    title: 'Store photographs in a lossy format',
    means:
      'Every grain of the photograph is kept exactly, which nobody sees; a lossy format looks the same at a fraction of the bytes.',
    evidence:
      'The bytes of the file and of a JPEG (WebP, if the picture is transparent) of the same width that looks the same.',
    fix: 'The tag with the new address, and the file to make.',
    silent:
      'For graphics: pictures in which at least three pixels in five equal their left neighbour. Lossy formats blur their edges.',
  },
  cut: 'better-encoding',
  asksForPixels: true,
  sureness: 'measured: encoded at equal looks',
  words(draft, facts, outcomes) {
    const found = bestOutcome(draft, outcomes);
    if (!found) return '';
    const { bytes, evidence } = found;
    const bytesAfter = encodedBytes(found, facts);
    return (
      `A photograph is stored as ${evidence.format.toUpperCase()}: ${bytesInWords(bytes)}. As ${evidence.newFormat.toUpperCase()} it looks the same and takes ` +
      `${bytesInWords(bytesAfter)}, ${percent(bytesAfter / bytes)} of it (on ${found.screen}).`
    );
  },
  find: (facts) =>
    findEncodings(facts, ({ taken, priced, content }) =>
      priced.lossless && content === 'photo' && !taken.file.animated && taken.file.format === priced.format
        ? lossyFormat(priced)
        : undefined,
    ),
  remedy: (draft) => ({
    changes: reencodings(draft, 'equal-looks'),
    notes: ['Make it from the original; where that is lost, this file is as good.'],
  }),
});
