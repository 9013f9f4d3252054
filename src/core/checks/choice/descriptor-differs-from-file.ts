import type { ParsedImage } from '../../markup/index.js';
import { resolveAddress } from '../../plan/addresses.js';
import type { Placement } from '../../run/types.js';
import { fileOf, imageOf, widthCandidates } from '../../judging/choice.js';
import { defineCheck } from '../../judging/check.js';
import { Drafts } from '../../judging/drafts.js';
import type { Facts } from '../../judging/facts.js';
import { group } from '../../wording/words.js';

type DescriptorEvidence = {
  url: string;
  /** Device px: what the markup says, and what the file has. */
  descriptor: number;
  fileWidth: number;
};

/** A descriptor may be rounded: off by up to 2 % or 2 px is no lie. */
const isTrue = (descriptor: number, width: number) =>
  Math.abs(descriptor - width) <= Math.max(2, width * 0.02);

function lies(image: ParsedImage, placement: Placement, facts: Facts): DescriptorEvidence[] {
  return image.sources.flatMap((source) =>
    widthCandidates(source).flatMap(({ url, width = 0 }) => {
      const file = fileOf(url, placement, facts);
      if (!file || file.width === 0 || file.format === 'svg' || isTrue(width, file.width)) return [];
      return [{ url, descriptor: width, fileWidth: file.width }];
    }),
  );
}

export const descriptorDiffersFromFile = defineCheck<DescriptorEvidence>({
  id: 'descriptor-differs-from-file',
  about: {
    title: 'Write each file’s true width',
    means:
      'Browsers believe the width descriptor: they show a file that is smaller than it says blurred, and fetch one that is larger for nothing.',
    evidence: 'The file, the width that its descriptor says, and the width that it has, in device px.',
    fix: 'The tag with the true widths.',
    silent: 'When they differ by up to 2 % or 2 px, and for vector pictures.',
  },
  cut: null,
  sureness: 'exact: the file was read',
  words({ screens }) {
    const [evidence] = Object.values(screens);
    return evidence
      ? `The descriptor of ${evidence.url} says ${group(evidence.descriptor)}w, but the file is ${group(evidence.fileWidth)} px wide.`
      : '';
  },
  find(facts) {
    const drafts = new Drafts<DescriptorEvidence>();
    for (const placement of facts.placements) {
      const image = imageOf(placement);
      const [first] = image ? lies(image, placement, facts) : [];
      if (!first) continue;
      for (const { name } of facts.screens)
        if (placement.slots[name]) drafts.add(placement, name, { ...first });
    }
    return drafts.list();
  },
  remedy({ placement }) {
    const sources = imageOf(placement)?.sources ?? [];
    return {
      changes: sources.flatMap((source, index) => {
        const candidates = widthCandidates(source);
        const urls = candidates.map(({ url }) => resolveAddress(url, placement.base));
        return urls.length > 0 ? [{ kind: 'candidates', source: index, urls, sizes: null } as const] : [];
      }),
      notes: [
        'A file that stood there under two widths is listed once; make the width that was meant anew if it is needed.',
      ],
    };
  },
});
