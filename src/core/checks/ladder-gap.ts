import { nameAtWidth, pricePart } from '../fixes/file-names.js';
import type { CandidateProposal } from '../fixes/proposal.js';
import type { ImageCandidate } from '../markup/index.js';
import type { FileToMake } from '../run/types.js';
import { choiceOn, editSource, imageOf, sourcesWithWidths, widthCandidates } from './choice.js';
import { defineCheck, type Draft, type Remedy } from './check.js';
import { Drafts, worst } from './drafts.js';
import type { Facts } from './facts.js';
import { claimSmallerWidths, type WidthEvidence } from './smaller-widths.js';
import { sharedDownloads } from './shared-downloads.js';
import { bytesInWords, group } from './words.js';

/** The candidates there are, with those of the proposal that no present one is near to. */
function filledLadder(
  present: readonly ImageCandidate[],
  { widths }: CandidateProposal,
  nameFor: (width: number) => string,
): { url: string; width: number }[] {
  const old = present.flatMap(({ url, width }) => (width === undefined ? [] : [{ url, width }]));
  const isNear = (width: number) => old.some((each) => each.width >= width && each.width <= width * 1.1);
  const added = widths.filter((width) => !isNear(width)).map((width) => ({ url: nameFor(width), width }));
  return [...old, ...added].sort((a, b) => a.width - b.width);
}

function remedy({ placement }: Draft<WidthEvidence>, facts: Facts): Remedy {
  const image = imageOf(placement);
  const proposal = facts.proposals.get(placement.id);
  if (!image || !proposal) return { edits: [], files: [], notes: [] };
  const files: FileToMake[] = [];
  const edits = sourcesWithWidths(image).map((index) => {
    const source = image.sources[index];
    const present = source ? widthCandidates(source) : [];
    const pattern = present.at(-1)?.url ?? proposal.master.url;
    const ladder = filledLadder(present, proposal, (width) => nameAtWidth(pattern, width));
    for (const { url, width } of ladder) {
      if (present.some((candidate) => candidate.url === url)) continue;
      const price = facts.prices.alike(proposal.master.url, width);
      files.push({
        name: nameAtWidth(proposal.master.url, width),
        from: proposal.master.url,
        width,
        format: proposal.master.format,
        ...pricePart(price),
      });
    }
    return editSource(image, index, 'srcset', ladder.map(({ url, width }) => `${url} ${width}w`).join(', '));
  });
  return { edits, files, notes: [] };
}

export const ladderGap = defineCheck<WidthEvidence>({
  id: 'ladder-gap',
  about: {
    title: 'Fill the gap between the widths',
    means:
      'Between two widths of srcset lies what a screen needs, so it takes the next larger file, which is much too large.',
    evidence:
      'The needed width and that of the file in device px, the bytes of the file and of a real encode at the width that the fix adds.',
    fix: 'The tag with the widths added, and the files to make.',
    silent:
      'When the next larger file costs no more than a trifle, and for images without width descriptors.',
  },
  cut: 'fewer-pixels',
  sureness: 'measured: the picture was encoded at these widths, as the file is now',
  words(draft) {
    const found = worst(draft, ({ saves }) => saves);
    if (!found) return '';
    const { neededWidth, fileWidth, proposedWidth, bytes, bytesAfter } = found.evidence;
    return (
      `On ${found.screen} ${group(neededWidth)} px are needed, and the next width offered is ${group(fileWidth)} px: ${bytesInWords(bytes)}, ` +
      `against ${bytesInWords(bytesAfter)} at ${group(proposedWidth)} px.`
    );
  },
  find(facts) {
    const drafts = new Drafts<WidthEvidence>();
    for (const download of sharedDownloads(facts.placements)) {
      const screen = facts.screens.find(({ name }) => name === download.screen);
      if (!screen) continue;
      const claims = claimSmallerWidths(download, screen, facts, (placement) => {
        // What a true `sizes` already gives is another check's to say.
        return choiceOn(placement, screen, facts)?.right.url === download.url;
      });
      for (const { placement, evidence } of claims) drafts.add(placement, screen.name, evidence);
    }
    return drafts.list();
  },
  remedy,
});
