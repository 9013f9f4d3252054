import { canBeWorthwhile } from '../bytes/wanted-encodes.js';
import { candidateUrls, parseImage, readImageMarkup } from '../markup/index.js';
import { nameAtWidth } from '../fixes/file-names.js';
import type { CandidateProposal } from '../fixes/proposal.js';
import { sizesFromScreens } from '../fixes/sizes-from-screens.js';
import type { FileToMake, Placement } from '../run/types.js';
import { defineCheck, type Draft, type Evidence, type Remedy } from './check.js';
import { defaultTrifles } from './trifles.js';
import { Drafts, worst } from './drafts.js';
import { encodeKey, type Facts } from './facts.js';
import { sharedDownloads, type SharedDownload } from './shared-downloads.js';
import { bytesInWords, group, pixels } from './words.js';

interface PixelEvidence extends Evidence {
  url: string;
  slotWidth: number;
  fileWidth: number;
  neededWidth: number;
  proposedWidth: number;
  bytes: number;
  bytesAfter: number;
}

/** Bytes of the file that a screen would get from the proposal; undefined when that was not measured. */
function bytesAt(proposal: CandidateProposal, width: number, facts: Facts): number | undefined {
  if (width >= proposal.master.width) return proposal.master.bytes;
  return facts.encodes.get(encodeKey(proposal.master.url, width));
}

interface Claimant {
  placement: Placement;
  proposal: CandidateProposal;
  width: number;
}

function examine(group: SharedDownload, facts: Facts, drafts: Drafts<PixelEvidence>): void {
  const file = facts.files.get(group.url);
  if (!file || file.width === 0 || file.animated) return;
  // Files that remain after the fix, once each: placements that share the download may then take different ones.
  const remaining = new Map<string, number>();
  const claimants: Claimant[] = [];
  for (const placement of group.placements) {
    const proposal = facts.proposals.get(placement.id);
    const width = proposal?.screens[group.screen]?.width;
    if (!proposal || width === undefined || !canBeWorthwhile(group.bytes, file.width, width, defaultTrifles))
      return;
    const bytes = bytesAt(proposal, width, facts);
    if (bytes === undefined) return;
    remaining.set(encodeKey(proposal.master.url, width), bytes);
    claimants.push({ placement, proposal, width });
  }
  const after = [...remaining.values()].reduce((sum, bytes) => sum + bytes, 0);
  if (after >= group.bytes) return;
  const [claimant] = group.placements;
  claimants.forEach(({ placement, proposal, width }) => {
    const first = placement === claimant;
    drafts.add(placement, group.screen, {
      // The bytes of a shared download are saved once, by the first placement that shows it.
      saves: first ? group.bytes - after : 0,
      ...(first || !claimant ? {} : { sharesWith: claimant.id }),
      url: group.url,
      slotWidth: placement.slots[group.screen]?.width ?? 0,
      fileWidth: file.width,
      neededWidth: proposal.screens[group.screen]?.needed ?? width,
      proposedWidth: width,
      bytes: group.bytes,
      bytesAfter: after,
    });
  });
}

function remedy(draft: Draft<PixelEvidence>, facts: Facts): Remedy {
  const { placement } = draft;
  const proposal = facts.proposals.get(placement.id);
  if (!proposal || (placement.kind !== 'img' && placement.kind !== 'picture'))
    return { edits: [], files: [], notes: ['Serve a smaller file at this address.'] };
  const written = writtenUrl(placement, proposal.master.url);
  const files = proposal.widths
    .filter((width) => width < proposal.master.width)
    .map((width): FileToMake => {
      const bytes = bytesAt(proposal, width, facts) ?? 0;
      const { url, format } = proposal.master;
      return { name: nameAtWidth(url, width), from: url, width, format, bytes };
    });
  const srcset = proposal.widths
    .map((width) => `${width < proposal.master.width ? nameAtWidth(written, width) : written} ${width}w`)
    .join(', ');
  const sizes = sizesFromScreens(placement, facts.screens);
  return {
    edits: [
      { kind: 'set', name: 'srcset', value: srcset },
      { kind: 'set', name: 'sizes', value: sizes },
    ],
    files,
    notes:
      placement.kind === 'picture'
        ? ['The picture has source elements: give each the same list of widths, or they win over the img.']
        : [],
  };
}

/** The address of a candidate as the markup writes it. */
function writtenUrl(placement: Placement, url: string): string {
  const markup = readImageMarkup(placement.markup);
  const written = markup ? candidateUrls(parseImage(markup)) : [];
  return written[placement.candidates.indexOf(url)] ?? url;
}

export const morePixelsThanNeeded = defineCheck<PixelEvidence>({
  id: 'more-pixels-than-needed',
  about: {
    title: 'Offer smaller widths',
    means:
      'The file has more pixels than the screen can show in the slot; the visitor waits for bytes that nobody sees.',
    evidence:
      'The slot in CSS px, the width of the delivered file and the needed width in device px, the bytes of the file and of a real encode at the width that the fix gives that screen.',
    fix: 'The tag with a list of widths (srcset) and the slot’s width (sizes), and the files to make.',
    silent:
      'Vector and animated pictures; files whose smaller version saves under the limit for trifles on every screen; files that another placement of the page needs at full width.',
  },
  cut: 'fewer-pixels',
  sureness: 'measured: the picture was encoded at these widths',
  words(draft) {
    const found = worst(draft, ({ saves }) => saves);
    if (!found) return '';
    const { screen, evidence } = found;
    return (
      `The file is ${group(evidence.fileWidth)} px wide; on ${screen} its slot of ${pixels(evidence.slotWidth)} CSS px needs ` +
      `${group(evidence.neededWidth)} px: ${bytesInWords(evidence.bytes)} now, ${bytesInWords(evidence.bytesAfter)} at ${group(evidence.proposedWidth)} px.`
    );
  },
  find(facts) {
    const drafts = new Drafts<PixelEvidence>();
    for (const group of sharedDownloads(facts.placements)) examine(group, facts, drafts);
    return drafts.list();
  },
  remedy,
});
