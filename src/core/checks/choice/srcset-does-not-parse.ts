import { resolveAddress } from '../../plan/addresses.js';
import { sizesFromScreens } from '../../layout/sizes-from-screens.js';
import { imageOf, sizesToWrite } from '../../judging/choice.js';
import { defineCheck } from '../../judging/check.js';
import { Drafts } from '../../judging/drafts.js';
import { count } from '../../wording/words.js';

type ParseEvidence = {
  dropped: number;
  url: string;
  why: string;
};

export const srcsetDoesNotParse = defineCheck<ParseEvidence>({
  id: 'srcset-does-not-parse',
  about: {
    title: 'Correct the srcset',
    means:
      'Browsers drop candidates that they cannot read, so screens take another file than was meant, or only the one in src.',
    evidence: 'How many candidates are dropped, the first of them, and what is wrong with it.',
    fix: 'The tag with a srcset in which each file has its true width.',
    silent: 'When every candidate parses.',
  },
  cut: null,
  sureness: 'exact: parsed by the rules of the HTML standard, as browsers do',
  words({ screens }) {
    const [evidence] = Object.values(screens);
    return evidence
      ? `${count(evidence.dropped, 'candidate')} of srcset ${evidence.dropped === 1 ? 'is' : 'are'} dropped; of ${evidence.url}: ${evidence.why}.`
      : '';
  },
  find(facts) {
    const drafts = new Drafts<ParseEvidence>();
    for (const placement of facts.placements) {
      const errors = imageOf(placement)?.sources.flatMap(({ srcset }) => srcset?.errors ?? []) ?? [];
      const [first] = errors;
      if (!first) continue;
      for (const { name } of facts.screens)
        if (placement.slots[name])
          drafts.add(placement, name, { dropped: errors.length, url: first.url, why: first.why });
    }
    return drafts.list();
  },
  remedy({ placement }, facts) {
    const sources = imageOf(placement)?.sources ?? [];
    return {
      changes: sources.flatMap(({ srcset, hasSizes }, index) => {
        if (!srcset || srcset.errors.length === 0) return [];
        const written = [...srcset.candidates, ...srcset.errors].map(({ url }) => url);
        const urls = written.map((url) => resolveAddress(url, placement.base));
        // Width descriptors without sizes would count as the full width.
        const sizes = hasSizes
          ? null
          : (sizesToWrite(placement, facts) ?? sizesFromScreens(placement, facts.screens));
        return [{ kind: 'candidates', source: index, urls, sizes } as const];
      }),
      notes: [],
    };
  },
});
