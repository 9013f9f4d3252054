import { defineCheck, nothingToPaste } from '../../judging/check.js';
import { Drafts } from '../../judging/drafts.js';
import { count } from '../../wording/words.js';

type RedirectEvidence = {
  url: string;
  leadsTo: string;
  redirects: number;
};

export const redirectedImage = defineCheck<RedirectEvidence>({
  id: 'redirected-image',
  about: {
    title: 'Name the address that the image has in the end',
    means:
      'The browser asks for one address and is sent to another: a whole round trip before the first byte of the image, each time.',
    evidence: 'The address as the page names it, where it leads, and how many redirects lie between.',
    fix: 'Nothing can be pasted: what names the address may be a template or a setting.',
    silent: 'Where the answers of the server are not known.',
  },
  cut: null,
  sureness: 'as the server answered',
  words(draft) {
    const [evidence] = Object.values(draft.screens);
    if (!evidence) return '';
    const { url, leadsTo, redirects } = evidence;
    return `${url} leads to ${leadsTo} by ${count(redirects, 'redirect')}.`;
  },
  find(facts) {
    const drafts = new Drafts<RedirectEvidence>();
    for (const placement of facts.placements)
      for (const [screen, { url }] of Object.entries(placement.downloads)) {
        const { redirects = [] } = facts.answers?.get(url) ?? {};
        const leadsTo = redirects.at(-1);
        if (leadsTo !== undefined)
          drafts.add(placement, screen, { url, leadsTo, redirects: redirects.length });
      }
    return drafts.list();
  },
  remedy({ screens }) {
    const [evidence] = Object.values(screens);
    return nothingToPaste(
      `Write ${evidence?.leadsTo ?? 'the last address'} where ${evidence?.url ?? 'the first'} stands.`,
    );
  },
});
