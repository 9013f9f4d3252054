import type { Placement } from '../../run/types.js';
import { defineCheck } from '../../judging/check.js';
import { Drafts, worst } from '../../judging/drafts.js';
import type { Facts } from '../../judging/facts.js';
import { placementsOn } from '../../judging/page-placements.js';
import { bytesInWords, listed } from '../../wording/words.js';

type PreloadEvidence = {
  url: string;
  /** What the page takes instead, if an image offers the preloaded file at all. */
  taken: string | null;
  bytes: number;
};

/** The image that the preload was meant for: one that offers its file. */
const meantFor = (preload: Placement, facts: Facts) =>
  placementsOn(preload.page, facts.placements).find(
    ({ kind, candidates }) =>
      kind !== 'preload' && candidates.some((url) => preload.candidates.includes(url)),
  );

export const preloadMissesPick = defineCheck<PreloadEvidence>({
  id: 'preload-misses-pick',
  about: {
    title: 'Preload what the image takes',
    means: 'The page fetches a picture early that no image of it shows, and then the right one as well.',
    evidence: 'The preloaded file with its bytes, and the file that the image takes, on each screen.',
    fix: 'The link with the same candidates and sizes as the image (imagesrcset, imagesizes).',
    silent: 'When an image or a style shows the preloaded file on that screen.',
  },
  cut: 'unneeded',
  sureness: 'observed in the browser',
  words(draft) {
    const found = worst(draft, ({ bytes }) => bytes);
    if (!found) return '';
    const { url, taken, bytes } = found.evidence;
    const screens = listed(Object.keys(draft.screens));
    return `${url} (${bytesInWords(bytes)}) is preloaded, but not shown on ${screens}${taken === null ? '' : `; ${taken} is taken on ${found.screen}`}.`;
  },
  find(facts) {
    const drafts = new Drafts<PreloadEvidence>();
    for (const preload of facts.placements.filter(({ kind }) => kind === 'preload')) {
      for (const [screen, { url, bytes }] of Object.entries(preload.downloads)) {
        const isShown = placementsOn(preload.page, facts.placements).some(
          ({ kind, downloads }) => kind !== 'preload' && downloads[screen]?.url === url,
        );
        const taken = meantFor(preload, facts)?.downloads[screen]?.url ?? null;
        if (!isShown) drafts.add(preload, screen, { url, taken, bytes });
      }
    }
    return drafts.list();
  },
  remedy({ placement }, facts) {
    const image = meantFor(placement, facts);
    return image
      ? { changes: [], follows: image.id, notes: [] }
      : {
          changes: [{ kind: 'drop-link' }],
          notes: ['Remove the preload: no image of this page shows its file.'],
        };
  },
});
