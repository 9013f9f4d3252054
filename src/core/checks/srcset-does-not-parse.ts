import type { ParsedImage, ParsedSource } from '../markup/index.js';
import type { TagEdit } from '../fixes/tag.js';
import type { Placement } from '../run/types.js';
import { sizesFromScreens } from '../fixes/sizes-from-screens.js';
import { editSource, fileOf, imageOf, sizesToWrite } from './choice.js';
import { defineCheck, type Evidence } from './check.js';
import { Drafts } from './drafts.js';
import type { Facts } from './facts.js';
import { count } from './words.js';

interface ParseEvidence extends Evidence {
  dropped: number;
  url: string;
  why: string;
}

/** The candidates of a srcset, the dropped ones too, with the true width of each file as its descriptor. */
function rewritten(
  source: ParsedSource,
  image: ParsedImage,
  placement: Placement,
  facts: Facts,
): string | undefined {
  const urls = [...(source.srcset?.candidates ?? []), ...(source.srcset?.errors ?? [])].map(({ url }) => url);
  const entries = [...new Set(urls)].flatMap((url) => {
    const width = fileOf(url, image, placement, facts)?.width ?? 0;
    return width > 0 ? [{ url, width }] : [];
  });
  if (entries.length === 0) return undefined;
  return entries
    .sort((a, b) => a.width - b.width)
    .map(({ url, width }) => `${url} ${width}w`)
    .join(', ');
}

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
          drafts.add(placement, name, { saves: 0, dropped: errors.length, url: first.url, why: first.why });
    }
    return drafts.list();
  },
  remedy({ placement }, facts) {
    const image = imageOf(placement);
    const edits = (image?.sources ?? []).flatMap((source, index): TagEdit[] => {
      if (!image || !source.srcset || source.srcset.errors.length === 0) return [];
      const value = rewritten(source, image, placement, facts);
      if (value === undefined) return [];
      const edits = [editSource(image, index, 'srcset', value)];
      // Width descriptors without sizes would count as the full width.
      if (!source.hasSizes) {
        const sizes = sizesToWrite(placement, facts) ?? sizesFromScreens(placement, facts.screens);
        edits.push(editSource(image, index, 'sizes', sizes));
      }
      return edits;
    });
    return { edits, files: [], notes: [] };
  },
});
