import { defineCheck } from './check.js';
import { worst } from './drafts.js';
import {
  filesToEncode,
  findReencodings,
  type Encoded,
  type EncodingEvidence,
  type Reencoding,
} from './encoding-claims.js';
import type { Facts } from './facts.js';
import { bytesInWords, group } from './words.js';

/** A JPEG at or below this quality is left alone at its own size: encoding it once more loses looks for little. */
const economicalQuality = 80;
/** From here on the delivered file itself can be encoded anew; below it, only a new export keeps the looks. */
const freelyEncoded = 85;

function lighter({ state, priced, delivered }: Encoded, facts: Facts): Reencoding | undefined {
  // Other checks speak of pictures that are stored in the wrong kind of format.
  const content = facts.prices.contentOf(priced.url);
  if (delivered.animated || delivered.format === 'svg' || (priced.lossless && content !== 'graphic'))
    return undefined;
  if (!priced.lossless && content === 'graphic') return undefined;
  const atItsSize = state.width >= priced.width;
  if (atItsSize && priced.quality !== null && priced.quality <= economicalQuality) return undefined;
  const price = facts.prices.equalLooks(priced.url, state.format, state.width);
  return price && { format: state.format, price };
}

export const heavierEncoding = defineCheck<EncodingEvidence>({
  id: 'heavier-encoding',
  about: {
    title: 'Encode at equal looks',
    means:
      'The file stores more detail than anybody can see at this size; a lighter encoding looks the same.',
    evidence:
      'The format, the width in device px, the bytes, and those of an encode of the same width that looks the same (docs/pricing.md says how that is judged).',
    fix: 'The files to make, with the quality to set and the bytes to expect.',
    silent:
      'For JPEGs of quality 80 and less at their own size, for files whose lighter version saves under the limit for trifles, and for pictures of which another check says that their kind of format is wrong.',
  },
  cut: 'better-encoding',
  sureness: 'measured: encoded at equal looks',
  words(draft) {
    const found = worst(draft, ({ saves }) => saves);
    if (!found) return '';
    const { format, width, bytes, bytesAfter, quality } = found.evidence;
    const setting = quality === null ? 'with a palette' : `at quality ${quality}`;
    return (
      `The ${format.toUpperCase()} takes ${bytesInWords(bytes)} at ${group(width)} px; ${setting} it looks the same and takes ` +
      `${bytesInWords(bytesAfter)} (on ${found.screen}).`
    );
  },
  find: (facts) => findReencodings(facts, (encoded) => lighter(encoded, facts)),
  remedy(draft, facts) {
    const [evidence] = Object.values(draft.screens);
    const file = evidence && facts.files.get(evidence.url);
    const quality = file?.quality ?? null;
    const careful = quality !== null && quality < freelyEncoded;
    return {
      edits: [],
      files: evidence ? filesToEncode(draft, evidence.newFormat, facts) : [],
      notes: careful
        ? ['The present file is no master: export it anew from the original, do not encode it a second time.']
        : [],
    };
  },
});
