import { defineCheck, nothingToPaste } from '../../judging/check.js';
import { Drafts } from '../../judging/drafts.js';
import { listed } from '../../wording/words.js';

type BrokenEvidence = {
  url: string;
  why: string;
};

export const doesNotLoad = defineCheck<BrokenEvidence>({
  id: 'does-not-load',
  about: {
    title: 'Repair the address or the file',
    means: 'The visitor sees a broken picture, or none.',
    evidence:
      'The address, and why nothing came of it: no such file, an error status, or a file that does not decode.',
    fix: 'Nothing can be pasted: the address or the file must be put right.',
    silent: 'For addresses on other hosts that the audit did not ask.',
  },
  cut: null,
  sureness: 'observed in the browser',
  words(draft) {
    const [evidence] = Object.values(draft.screens);
    return evidence
      ? `${evidence.url} does not load on ${listed(Object.keys(draft.screens))}: ${evidence.why}.`
      : '';
  },
  find(facts) {
    const drafts = new Drafts<BrokenEvidence>();
    for (const placement of facts.placements) {
      for (const { name } of facts.screens) {
        if (placement.shown[name]?.state !== 'broken') continue;
        const url = placement.picks[name]?.observed ?? placement.candidates[0] ?? '';
        const visit = facts.pages
          .find(({ path }) => path === placement.page)
          ?.visits.find(({ screen }) => screen === name);
        const download = visit?.downloads.find((candidate) => candidate.url === url);
        // Requests to other hosts are refused by the audit itself, which says nothing about the file.
        const isAddress = URL.canParse(url, 'http://site.invalid');
        if (isAddress && !url.startsWith('/')) continue;
        const why = !isAddress
          ? 'it is not an address'
          : download && download.status >= 400
            ? `the server answers ${download.status}`
            : (facts.files.get(url)?.problem ?? download?.failure ?? 'the browser cannot decode it');
        drafts.add(placement, name, { url, why });
      }
    }
    return drafts.list();
  },
  remedy: () => nothingToPaste(),
});
