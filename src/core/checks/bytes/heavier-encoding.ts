import { defineCheck } from '../../judging/check.js';
import { bestOutcome, type BestOutcome } from '../../judging/drafts.js';
import {
  encodedBytes,
  findEncodings,
  reencodings,
  type Encoded,
  type EncodingEvidence,
} from '../../judging/encodings.js';
import { bytesInWords, group } from '../../wording/words.js';

/** A JPEG or WebP at or below this quality is left alone at its own size: encoding it once more loses looks for little. */
const economicalQuality = 80;
/** From here on the delivered file itself can be encoded anew; below it, only a new export keeps the looks. */
const freelyEncoded = 85;

function isHeavy({ taken, priced, content }: Encoded): boolean {
  // Other checks speak of pictures that are stored in the wrong kind of format.
  if (taken.file.animated || taken.file.format === 'svg' || (priced.lossless && content === 'photo'))
    return false;
  if (!priced.lossless && content === 'graphic') return false;
  const atItsSize = taken.file.width >= priced.width;
  return !(atItsSize && priced.quality !== null && priced.quality <= economicalQuality);
}

/** Nothing is gained by the formats from before PNG. */
const plainFormat = (format: string) => (format === 'gif' || format === 'bmp' ? 'png' : format);

/** The quality is known only where the plan makes the file. */
function settingInWords({ evidence, quality }: BestOutcome<EncodingEvidence>): string {
  const { format, newFormat } = evidence;
  if (newFormat !== format) return `as ${newFormat.toUpperCase()}`;
  if (quality !== null) return `at quality ${group(quality)}`;
  return format === 'png' ? 'with a palette' : 'encoded anew';
}

export const heavierEncoding = defineCheck<EncodingEvidence>({
  id: 'heavier-encoding',
  about: {
    title: 'Encode at equal looks',
    means:
      'The file stores more detail than anybody can see at this size; a lighter encoding looks the same.',
    evidence:
      'The format, the width in device px, the bytes, and those of an encode of the same width that looks the same (docs/pricing.md says how that is judged).',
    fix: 'The tag or the rule with the addresses of the lighter files, which get names of their own, and the files to make, with the quality to set and the bytes to expect.',
    silent:
      'For JPEGs and WebPs of quality 80 and less at their own size, for other lossy files at their own size that are not a quarter heavier, for templates whose lighter versions save under the limit for trifles, and for pictures of which another check says that their kind of format is wrong.',
  },
  cut: 'better-encoding',
  asksForPixels: true,
  sureness: 'measured: encoded at equal looks',
  words(draft, facts, outcomes) {
    const found = bestOutcome(draft, outcomes);
    if (!found) return '';
    const { format, width } = found.evidence;
    return (
      `The ${format.toUpperCase()} takes ${bytesInWords(found.bytes)} at ${group(width)} px; ${settingInWords(found)} it looks the same and takes ` +
      `${bytesInWords(encodedBytes(found, facts))} (on ${found.screen}).`
    );
  },
  find: (facts) =>
    findEncodings(facts, (encoded) =>
      isHeavy(encoded) ? plainFormat(encoded.taken.file.format) : undefined,
    ),
  remedy(draft, facts) {
    const [evidence] = Object.values(draft.screens);
    const quality = facts.files.get(evidence?.url ?? '')?.quality ?? null;
    return {
      changes: reencodings(draft, 'equal-looks'),
      notes:
        quality !== null && quality < freelyEncoded
          ? [
              'The present file is no master: export it anew from the original, do not encode it a second time.',
            ]
          : [],
    };
  },
});
