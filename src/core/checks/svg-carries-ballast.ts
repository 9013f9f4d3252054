import { defineCheck } from './check.js';
import { worst } from './drafts.js';
import { findReencodings, filesToEncode, type EncodingEvidence } from './encoding-claims.js';
import { bytesInWords, listed } from './words.js';

export const svgCarriesBallast = defineCheck<EncodingEvidence>({
  id: 'svg-carries-ballast',
  about: {
    title: 'Take the ballast out of vector pictures',
    means:
      'The drawing carries what its program needs and no browser shows, coordinates finer than any screen, or whole photographs as text.',
    evidence:
      'The bytes as they are transferred, compressed, and those of the same drawing cleaned; embedded pictures are named.',
    fix: 'The file to make.',
    silent: 'When the cleaned drawing saves under the limit for trifles after compression.',
  },
  cut: 'better-encoding',
  sureness: 'measured: the drawing was cleaned and compressed as hosts do',
  words(draft, facts) {
    const found = worst(draft, ({ saves }) => saves);
    if (!found) return '';
    const { url, bytes, bytesAfter } = found.evidence;
    const notes = facts.prices.prices.get(url)?.notes ?? [];
    return (
      `${url} takes ${bytesInWords(bytes)} compressed, and ${bytesInWords(bytesAfter)} once cleaned` +
      `${notes.length > 0 ? `: ${listed(notes)}` : ''}.`
    );
  },
  find: (facts) =>
    findReencodings(facts, ({ state, delivered }) => {
      const price =
        delivered.format === 'svg' ? facts.prices.equalLooks(delivered.url, 'svg', state.width) : undefined;
      return price && { format: 'svg', price };
    }),
  remedy: (draft, facts) => ({
    edits: [],
    files: filesToEncode(draft, 'svg', facts),
    notes: ['Two decimals of a CSS px are finer than any screen shows.'],
  }),
});
