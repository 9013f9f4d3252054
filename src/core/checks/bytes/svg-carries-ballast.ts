import { defineCheck } from '../../judging/check.js';
import { bestOutcome } from '../../judging/drafts.js';
import { findEncodings, reencodings, type EncodingEvidence } from '../../judging/encodings.js';
import { bytesInWords, listed } from '../../wording/words.js';

export const svgCarriesBallast = defineCheck<EncodingEvidence>({
  id: 'svg-carries-ballast',
  about: {
    title: 'Take the ballast out of vector pictures',
    means:
      'The drawing carries what its program needs and no browser shows, coordinates finer than any screen, or whole photographs as text.',
    evidence:
      'The bytes as they are transferred, compressed, and those of the same drawing cleaned; embedded pictures are named.',
    fix: 'The tag or the rule with the address of the cleaned file, and the file to make.',
    silent: 'When the cleaned drawing saves under the limit for trifles after compression.',
  },
  cut: 'better-encoding',
  sureness: 'measured: the drawing was cleaned and compressed as hosts do',
  words(draft, facts, outcomes) {
    const found = bestOutcome(draft, outcomes);
    if (!found) return '';
    const { url } = found.evidence;
    const notes = facts.prices.prices.get(url)?.notes ?? [];
    return (
      `${url} takes ${bytesInWords(found.bytes)} compressed, and ${bytesInWords(found.bytesAfter)} once cleaned` +
      `${notes.length > 0 ? `: ${listed(notes)}` : ''}.`
    );
  },
  find: (facts) => findEncodings(facts, ({ taken }) => (taken.file.format === 'svg' ? 'svg' : undefined)),
  remedy: (draft) => ({
    changes: reencodings(draft, 'cleaned'),
    notes: [],
  }),
});
