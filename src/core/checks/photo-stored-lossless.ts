import type { ImageFile } from '../run/types.js';
import { defineCheck } from './check.js';
import { worst } from './drafts.js';
import { filesToEncode, findReencodings, extensionOf, type EncodingEvidence } from './encoding-claims.js';
import { bytesInWords, percent } from './words.js';

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
  sureness: 'measured: encoded at equal looks',
  words(draft) {
    const found = worst(draft, ({ saves }) => saves);
    if (!found) return '';
    const { format, newFormat, bytes, bytesAfter } = found.evidence;
    return (
      `A photograph is stored as ${format.toUpperCase()}: ${bytesInWords(bytes)}. As ${newFormat.toUpperCase()} it looks the same and takes ` +
      `${bytesInWords(bytesAfter)}, ${percent(bytesAfter / bytes)} of it (on ${found.screen}).`
    );
  },
  find: (facts) =>
    findReencodings(facts, ({ state, priced, delivered }) => {
      const wrong = priced.lossless && facts.prices.contentOf(priced.url) === 'photo' && !delivered.animated;
      if (!wrong || state.format === 'svg') return undefined;
      const format = lossyFormat(priced);
      const price = facts.prices.equalLooks(priced.url, format, state.width);
      return price && { format, price };
    }),
  remedy(draft, facts) {
    const [evidence] = Object.values(draft.screens);
    if (!evidence) return { edits: [], files: [], notes: [] };
    return {
      edits: [{ kind: 'rename', from: evidence.format, to: extensionOf(evidence.newFormat) }],
      files: filesToEncode(draft, evidence.newFormat, facts),
      notes: ['Make it from the original; where that is lost, this file is as good.'],
    };
  },
});
