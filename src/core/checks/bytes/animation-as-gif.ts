import { defineCheck } from '../../judging/check.js';
import { bestOutcome } from '../../judging/drafts.js';
import { encodedBytes, findEncodings, sourcesOf, type EncodingEvidence } from '../../judging/encodings.js';
import { bytesInWords, group } from '../../wording/words.js';

export const animationAsGif = defineCheck<EncodingEvidence>({
  id: 'animation-as-gif',
  about: {
    title: 'Store animations in a newer format',
    means:
      'GIF stores each picture of the animation with 256 colours and almost whole; it is the largest way to move.',
    evidence:
      'The number of pictures, the bytes of the GIF and those of an animated WebP of the same size: lossy and lossless are both made, the smaller one counts.',
    fix: 'A picture with a source of the new format before the GIF, and the file to make.',
    silent: 'When the WebP saves under the limit for trifles, or when the site may not use WebP.',
  },
  cut: 'newer-format',
  asksForPixels: true,
  sureness: 'measured: encoded as an animated WebP; likeness is not compared for animations',
  words(draft, facts, outcomes) {
    const found = bestOutcome(draft, outcomes);
    if (!found) return '';
    const frames = facts.files.get(found.evidence.url)?.frames ?? 1;
    return `An animation of ${group(frames)} pictures is stored as GIF: ${bytesInWords(found.bytes)}, against ${bytesInWords(encodedBytes(found, facts))} as animated WebP.`;
  },
  find: (facts) =>
    findEncodings(facts, ({ taken }) =>
      taken.file.format === 'gif' && taken.file.animated && facts.wishes.formats.includes('webp')
        ? 'webp'
        : undefined,
    ),
  remedy(draft, facts) {
    const [evidence] = Object.values(draft.screens);
    return {
      changes: sourcesOf(draft).map((source) => ({
        kind: 'offer-format',
        source,
        format: 'webp',
        recipe: 'animation',
      })),
      notes: [
        'For visitors who ask for less motion a still picture can stand before it, in a source with media="(prefers-reduced-motion: reduce)"; the picture that says most can also be the poster of a video.',
        'A short film in a video element (muted, loop, playsinline, with that poster) is smaller still where the animation is long.',
        ...(facts.prices.prices.get(evidence?.url ?? '')?.notes ?? []),
      ],
    };
  },
});
