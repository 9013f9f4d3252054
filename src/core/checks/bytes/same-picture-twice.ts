import { defineCheck } from '../../judging/check.js';
import { Drafts, worst } from '../../judging/drafts.js';
import { placementsOn } from '../../judging/page-placements.js';
import { sharedDownloads } from '../../judging/shared-downloads.js';
import { filesOf } from '../../plan/image-state.js';
import type { Change } from '../../plan/changes.js';
import { bytesInWords } from '../../wording/words.js';

type TwiceEvidence = {
  url: string;
  /** Address under which the same content came first. */
  firstUrl: string;
  bytes: number;
};

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
      for (const placement of placements) drafts.add(placement, screen, { url, firstUrl, bytes });
    }
    return drafts.list();
  },
  remedy({ placement, screens }, facts) {
    const [evidence] = Object.values(screens);
    const other = placementsOn(placement.page, facts.placements).find(({ candidates }) =>
      candidates.includes(evidence?.firstUrl ?? ''),
    );
    const state = facts.plan.stateOf(placement);
    const hashOf = (url: string) => facts.files.get(url)?.hash ?? '';
    const changes = (state ? filesOf(state) : []).flatMap(({ url }): Change[] => {
      const twin = other?.candidates.find((each) => hashOf(each) !== '' && hashOf(each) === hashOf(url));
      return twin === undefined || twin === url ? [] : [{ kind: 'readdress', from: url, to: twin }];
    });
    return { changes, notes: ['Then the second files are not needed any more.'] };
  },
});
