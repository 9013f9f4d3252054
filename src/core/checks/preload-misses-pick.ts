import type { Placement } from '../run/types.js';
import { readImageMarkup } from '../markup/index.js';
import { defineCheck, type Evidence } from './check.js';
import { Drafts, worst } from './drafts.js';
import type { Facts } from './facts.js';
import { bytesInWords, listed } from './words.js';

interface PreloadEvidence extends Evidence {
  url: string;
  /** What the page takes instead, if an image offers the preloaded file at all. */
  taken: string | null;
  bytes: number;
}

/** The image that the preload was meant for: one that offers its file. */
const meantFor = (preload: Placement, facts: Facts) =>
  facts.placements.find(
    ({ page, kind, candidates }) =>
      page === preload.page &&
      kind !== 'preload' &&
      candidates.some((url) => preload.candidates.includes(url)),
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
        const isShown = facts.placements.some(
          ({ page, kind, downloads }) =>
            page === preload.page && kind !== 'preload' && downloads[screen]?.url === url,
        );
        const taken = meantFor(preload, facts)?.downloads[screen]?.url ?? null;
        if (!isShown) drafts.add(preload, screen, { saves: bytes, url, taken, bytes });
      }
    }
    return drafts.list();
  },
  remedy({ placement }, facts) {
    const image = meantFor(placement, facts);
    const markup = image && readImageMarkup(image.markup);
    const [source] = [...(markup?.sources ?? []), ...(markup ? [markup.img] : [])].filter(({ srcset }) =>
      Boolean(srcset),
    );
    if (!source?.srcset)
      return { edits: [], files: [], notes: ['Remove the preload: no image of this page shows its file.'] };
    return {
      edits: [
        { kind: 'remove', name: 'href' },
        ...(!source.type ? [] : [{ kind: 'set', name: 'type', value: source.type } as const]),
        { kind: 'set', name: 'imagesrcset', value: source.srcset },
        ...(!source.sizes ? [] : [{ kind: 'set', name: 'imagesizes', value: source.sizes } as const]),
      ],
      files: [],
      notes: ['If the sizes of the image change, the imagesizes of the preload change with them.'],
    };
  },
});
