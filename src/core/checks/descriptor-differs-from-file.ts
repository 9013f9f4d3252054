import type { ParsedImage } from '../markup/index.js';
import type { TagEdit } from '../fixes/tag.js';
import type { Placement } from '../run/types.js';
import { editSource, fileOf, imageOf, widthCandidates } from './choice.js';
import { defineCheck, type Evidence } from './check.js';
import { Drafts } from './drafts.js';
import type { Facts } from './facts.js';
import { group } from './words.js';

interface DescriptorEvidence extends Evidence {
  url: string;
  /** Device px: what the markup says, and what the file has. */
  descriptor: number;
  fileWidth: number;
}

/** A descriptor may be rounded: off by up to 2 % or 2 px is no lie. */
const isTrue = (descriptor: number, width: number) =>
  Math.abs(descriptor - width) <= Math.max(2, width * 0.02);

function lies(image: ParsedImage, placement: Placement, facts: Facts): DescriptorEvidence[] {
  return image.sources.flatMap((source) =>
    widthCandidates(source).flatMap(({ url, width = 0 }) => {
      const file = fileOf(url, image, placement, facts);
      if (!file || file.width === 0 || file.format === 'svg' || isTrue(width, file.width)) return [];
      return [{ saves: 0, url, descriptor: width, fileWidth: file.width }];
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
  remedy({ placement }, facts) {
    const image = imageOf(placement);
    if (!image) return { edits: [], files: [], notes: [] };
    const edits = image.sources.flatMap((source, index): TagEdit[] => {
      const candidates = widthCandidates(source);
      if (candidates.length === 0) return [];
      const trueWidths = new Map(
        candidates.map(({ url, width = 0 }) => [url, fileOf(url, image, placement, facts)?.width || width]),
      );
      const ladder = [...trueWidths].sort(([, a], [, b]) => a - b).map(([url, width]) => `${url} ${width}w`);
      return [editSource(image, index, 'srcset', ladder.join(', '))];
    });
    return {
      edits,
      files: [],
      notes: [
        'A file that stood there under two widths is listed once; make the width that was meant anew if it is needed.',
      ],
    };
  },
});
