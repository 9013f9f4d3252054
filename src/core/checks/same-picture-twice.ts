import { candidateUrls, parseImage, readImageMarkup } from '../markup/index.js';
import type { Placement } from '../run/types.js';
import { writtenUrl } from '../fixes/written-url.js';
import { defineCheck, type Evidence } from './check.js';
import { Drafts, worst } from './drafts.js';
import type { Facts } from './facts.js';
import { stateOn } from './file-state.js';
import { sharedDownloads } from './shared-downloads.js';
import { bytesInWords } from './words.js';

interface TwiceEvidence extends Evidence {
  url: string;
  /** Address under which the same content came first. */
  firstUrl: string;
  bytes: number;
}

export const samePictureTwice = defineCheck<TwiceEvidence>({
  id: 'same-picture-twice',
  about: {
    title: 'Fetch each picture once',
    means: 'The page fetches the same file under two addresses, so the visitor pays for it twice.',
    evidence: 'Both addresses and the bytes of the second download. The contents are equal byte for byte.',
    fix: 'The tag with the addresses of the first picture.',
    silent: 'When a page shows one address several times: browsers fetch it once.',
  },
  cut: 'unneeded',
  sureness: 'exact: the files are equal',
  words(draft) {
    const found = worst(draft, ({ bytes }) => bytes);
    if (!found) return '';
    const { url, firstUrl, bytes } = found.evidence;
    return `${url} is the same file as ${firstUrl}, which the page fetches too: ${bytesInWords(bytes)} for nothing (on ${found.screen}).`;
  },
  find(facts) {
    const drafts = new Drafts<TwiceEvidence>();
    const first = new Map<string, string>();
    for (const { page, screen, url, bytes, placements } of sharedDownloads(facts.placements)) {
      const hash = facts.files.get(url)?.hash ?? '';
      if (hash === '') continue;
      const key = JSON.stringify([page, screen, hash]);
      const firstUrl = first.get(key);
      first.set(key, firstUrl ?? url);
      if (firstUrl === undefined) continue;
      placements.forEach((placement, index) => {
        const state = stateOn(placement, screen, facts);
        const claims = index === 0;
        drafts.add(placement, screen, {
          saves: claims ? bytes : 0,
          ...(claims ? {} : { sharesWith: placements[0]?.id ?? '' }),
          ...(state ? { leaves: { ...state, key: firstUrl, url: firstUrl, bytes: 0 } } : {}),
          url,
          firstUrl,
          bytes,
        });
      });
    }
    return drafts.list();
  },
  remedy({ placement, screens }, facts) {
    const [evidence] = Object.values(screens);
    const other = facts.placements.find(
      ({ page, candidates }) => page === placement.page && candidates.includes(evidence?.firstUrl ?? ''),
    );
    const addresses = other ? twins(placement, other, facts) : [];
    return {
      edits: addresses.map(([from, to]) => ({ kind: 'readdress', from, to })),
      files: [],
      notes: ['Then the second files are not needed any more.'],
    };
  },
});

/** Addresses as written, each with that of the equal file of the other image. */
function twins(placement: Placement, other: Placement, { files }: Facts): [from: string, to: string][] {
  const markup = readImageMarkup(placement.markup);
  const written = markup ? candidateUrls(parseImage(markup)) : [];
  return written.flatMap((from): [string, string][] => {
    const url = placement.candidates[written.indexOf(from)] ?? '';
    const hash = files.get(url)?.hash;
    const twin = other.candidates.find(
      (each) => hash !== undefined && hash !== '' && files.get(each)?.hash === hash,
    );
    return twin === undefined || twin === url ? [] : [[from, writtenUrl(other, twin)]];
  });
}
