import { withExtension } from '../fixes/file-names.js';
import { writtenUrl } from '../fixes/written-url.js';
import { defineCheck } from './check.js';
import { worst } from './drafts.js';
import { filesToEncode, findReencodings, type EncodingEvidence } from './encoding-claims.js';
import { bytesInWords, group } from './words.js';

export const animationAsGif = defineCheck<EncodingEvidence>({
  id: 'animation-as-gif',
  about: {
    title: 'Store animations in a newer format',
    means:
      'GIF stores each picture of the animation with 256 colours and almost whole; it is the largest way to move.',
    evidence:
      'The number of pictures, the bytes of the GIF and those of an animated WebP of the same size: lossy and lossless are both made, the smaller one counts.',
    fix: 'A picture with a source of the new format, and one that stands still for visitors who ask for less motion.',
    silent: 'When the WebP saves under the limit for trifles, or when the site may not use WebP.',
  },
  cut: 'newer-format',
  sureness: 'measured: encoded as an animated WebP; likeness is not compared for animations',
  words(draft, facts) {
    const found = worst(draft, ({ saves }) => saves);
    if (!found) return '';
    const { url, bytes, bytesAfter } = found.evidence;
    const frames = facts.files.get(url)?.frames ?? 1;
    return `An animation of ${group(frames)} pictures is stored as GIF: ${bytesInWords(bytes)}, against ${bytesInWords(bytesAfter)} as animated WebP.`;
  },
  find: (facts) =>
    findReencodings(facts, ({ state, delivered }) => {
      if (delivered.format !== 'gif' || !delivered.animated) return undefined;
      const wanted = facts.wishes.formats.includes('webp');
      const price = wanted ? facts.prices.equalLooks(delivered.url, 'webp', state.width) : undefined;
      return price && { format: 'webp', price };
    }),
  remedy(draft, facts) {
    const { placement, screens } = draft;
    const [evidence] = Object.values(screens);
    const tag = placement.kind === 'img' || placement.kind === 'picture';
    if (!evidence) return { edits: [], files: [], notes: [] };
    const stillOf = (url: string) => withExtension(url, 'jpg').replace(/(\.[a-z]+)(?=$|[?#])/, '-still$1');
    return {
      edits: tag
        ? [
            { kind: 'add-source', type: 'image/webp', extension: 'webp' },
            {
              kind: 'add-still',
              media: '(prefers-reduced-motion: reduce)',
              srcset: stillOf(writtenUrl(placement, evidence.url)),
            },
          ]
        : [],
      files: filesToEncode(draft, 'webp', facts),
      notes: [
        `Make ${stillOf(evidence.url)} from the picture that says most: visitors who ask for less motion see it, and it can be the poster of a video.`,
        'A short film in a video element (muted, loop, playsinline, with that poster) is smaller still where the animation is long.',
        ...(facts.prices.prices.get(evidence.url)?.notes ?? []),
      ],
    };
  },
});
