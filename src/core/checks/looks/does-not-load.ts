import { defineCheck, nothingToPaste } from '../../judging/check.js';
import { Drafts } from '../../judging/drafts.js';
import type { Facts } from '../../judging/facts.js';
import { writtenAddresses } from '../../judging/written-addresses.js';
import type { Download, Placement } from '../../run/types.js';
import { listed } from '../../wording/words.js';

type BrokenEvidence = {
  url: string;
  why: string;
};

const isAnswer = ({ status }: Download) => status >= 400;

const askedFor = ({ picks, candidates }: Placement, screen: string): string =>
  picks[screen]?.observed ?? picks[screen]?.predicted ?? candidates[0] ?? '';

/** Whether it is seen broken, or had not come while the page was looked at and did not come when it was asked for again. */
function isMissing(
  placement: Placement,
  screen: string,
  downloads: readonly Download[],
  { files }: Facts,
): boolean {
  const state = placement.shown[screen]?.state;
  if (state !== 'not-loaded') return state === 'broken';
  const url = askedFor(placement, screen);
  return (
    files.get(url)?.problem !== undefined &&
    downloads.some((download) => download.url === url && download.failure !== undefined)
  );
}

function broken(
  placement: Placement,
  screen: string,
  downloads: readonly Download[],
  { files }: Facts,
): BrokenEvidence | undefined {
  const url = askedFor(placement, screen);
  const download = downloads.find((candidate) => candidate.url === url);
  // Requests to other hosts are refused by the audit itself, which says nothing about the file.
  const isAddress = URL.canParse(url, 'http://site.invalid');
  if (isAddress && !url.startsWith('/') && !download) return undefined;
  const why = !isAddress
    ? 'it is not an address'
    : download && isAnswer(download)
      ? `the server answers ${download.status}`
      : (files.get(url)?.problem ?? download?.failure ?? 'the browser cannot decode it');
  return { url, why };
}

/** What the page asks for is not there, and a script has put something else in its place. */
function replaced(
  placement: Placement,
  screen: string,
  downloads: readonly Download[],
): BrokenEvidence | undefined {
  if (!placement.shown[screen]) return undefined;
  const written = new Set(writtenAddresses(placement));
  const failed = downloads.find((download) => isAnswer(download) && written.has(download.url));
  return failed && { url: failed.url, why: `the server answers ${failed.status}, which a script hides` };
}

export const doesNotLoad = defineCheck<BrokenEvidence>({
  id: 'does-not-load',
  about: {
    title: 'Repair the address or the file',
    means: 'The visitor sees a broken picture, or none.',
    evidence:
      'The address, and why nothing came of it: no such file, no answer in time, an error status, or a file that does not decode.',
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
    const visits = new Map(
      facts.pages.flatMap(({ path, visits: seen }) =>
        seen.map((visit) => [JSON.stringify([path, visit.screen]), visit] as const),
      ),
    );
    for (const placement of facts.placements)
      for (const { name } of facts.screens) {
        const { downloads = [] } = visits.get(JSON.stringify([placement.page, name])) ?? {};
        const evidence = isMissing(placement, name, downloads, facts)
          ? broken(placement, name, downloads, facts)
          : replaced(placement, name, downloads);
        if (evidence) drafts.add(placement, name, evidence);
      }
    return drafts.list();
  },
  remedy: () => nothingToPaste(),
});
