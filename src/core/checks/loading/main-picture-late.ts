import type { Placement } from '../../run/types.js';
import { defineCheck, nothingToPaste } from '../../judging/check.js';
import { Drafts } from '../../judging/drafts.js';
import type { Facts } from '../../judging/facts.js';
import { placementsOn } from '../../judging/page-placements.js';
import { listed } from '../../wording/words.js';

type LateEvidence = {
  url: string;
  /** What must come before the browser learns of it. */
  behind: string;
};

function isPreloaded({ page }: Placement, screen: string, url: string, facts: Facts): boolean {
  return placementsOn(page, facts.placements).some(
    (other) => other.kind === 'preload' && other.downloads[screen]?.url === url,
  );
}

function behindWhat({ kind, source }: Placement): string {
  if (kind !== 'css-image') return 'a script';
  return source ? `the style sheet ${source.file}:${source.line}` : 'a style';
}

export const mainPictureLate = defineCheck<LateEvidence>({
  id: 'main-picture-late',
  about: {
    title: 'Let the browser find the main picture early',
    means:
      'The largest picture of the first view is not in the page as it is served: the browser learns of it only after a style sheet or a script has come.',
    evidence:
      'The picture, that it was the largest paint, and what names it: a rule of a style sheet, or a script.',
    fix: 'A preload in the head of the page, of what the picture takes once the other edits are made, or an img with fetchpriority="high" instead.',
    silent: 'When the picture is an img of the served page, or preloaded.',
  },
  cut: null,
  sureness: 'observed in the browser',
  words(draft) {
    const [evidence] = Object.values(draft.screens);
    return evidence
      ? `${evidence.url} is the largest paint on ${listed(Object.keys(draft.screens))}, and only ${evidence.behind} names it.`
      : '';
  },
  find(facts) {
    const drafts = new Drafts<LateEvidence>();
    for (const placement of facts.placements) {
      const { kind, source, shown } = placement;
      if (kind !== 'css-image' && source !== null) continue;
      for (const [screen, { url }] of Object.entries(placement.downloads))
        if (shown[screen]?.largestPaint && !isPreloaded(placement, screen, url, facts))
          drafts.add(placement, screen, { url, behind: behindWhat(placement) });
    }
    return drafts.list();
  },
  remedy: () => ({
    ...nothingToPaste(
      'Better still, show it as an img with srcset and fetchpriority="high": then each screen takes its own width.',
    ),
    preloads: true,
  }),
});
