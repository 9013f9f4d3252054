import { nameAtWidth, pricePart } from '../fixes/file-names.js';
import { writtenUrl } from '../fixes/written-url.js';
import type { CandidateProposal } from '../fixes/proposal.js';
import type { TagEdit } from '../fixes/tag.js';
import { isCropped, sizesFromScreens } from '../fixes/sizes-from-screens.js';
import type { FileToMake, Placement } from '../run/types.js';
import { defineCheck, type Draft, type Remedy } from './check.js';
import { choiceOn } from './choice.js';
import { Drafts, worst } from './drafts.js';
import type { Facts } from './facts.js';
import { claimSmallerWidths, type WidthEvidence } from './smaller-widths.js';
import { sharedDownloads, type SharedDownload } from './shared-downloads.js';
import { bytesInWords, group, pixels } from './words.js';

interface PixelEvidence extends WidthEvidence {
  url: string;
  slotWidth: number;
}

function examine(download: SharedDownload, facts: Facts, drafts: Drafts<PixelEvidence>): void {
  const screen = facts.screens.find(({ name }) => name === download.screen);
  if (!screen) return;
  // Where width descriptors are, the checks of the ladder and of sizes say more exactly what is wrong.
  const claims = claimSmallerWidths(
    download,
    screen,
    facts,
    (placement) => !choiceOn(placement, screen, facts),
  );
  for (const { placement, evidence } of claims) {
    const slotWidth = placement.slots[screen.name]?.width ?? 0;
    drafts.add(placement, screen.name, { ...evidence, url: download.url, slotWidth });
  }
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
      const price = facts.prices.alike(proposal.master.url, width);
      const { url, format } = proposal.master;
      return { name: nameAtWidth(url, width), from: url, width, format, ...pricePart(price) };
    });
  const nameOf = (width: number) => (width < proposal.master.width ? nameAtWidth(written, width) : written);
  return {
    edits:
      proposal.constant === undefined
        ? byWidths(placement, proposal, nameOf, facts)
        : byDensities(proposal, nameOf),
    files,
    notes: [
      ...(placement.kind === 'picture'
        ? ['The picture has source elements: give each the same list of widths, or they win over the img.']
        : []),
      ...(isCropped(placement)
        ? [
            'The picture is cropped to its slot: sizes gives the width at which all of it is drawn, measured on these screens only.',
          ]
        : []),
    ],
  };
}

function byWidths(
  placement: Placement,
  { widths, sizes }: CandidateProposal,
  nameOf: (width: number) => string,
  facts: Facts,
): TagEdit[] {
  return [
    { kind: 'set', name: 'srcset', value: widths.map((width) => `${nameOf(width)} ${width}w`).join(', ') },
    {
      kind: 'set',
      name: 'sizes',
      value:
        sizes !== undefined && !isCropped(placement) ? sizes : sizesFromScreens(placement, facts.screens),
    },
  ];
}

/** A slot of one width wants densities: they need no `sizes` that could go wrong. */
function byDensities(
  { widths, constant = 1 }: CandidateProposal,
  nameOf: (width: number) => string,
): TagEdit[] {
  const density = (width: number) => Number((width / constant).toFixed(2));
  return [
    {
      kind: 'set',
      name: 'srcset',
      value: widths.map((width) => `${nameOf(width)} ${density(width)}x`).join(', '),
    },
    // A src without densities beside it is what browsers without srcset take: the smallest will do.
    { kind: 'set', name: 'src', value: nameOf(widths[0] ?? 0) },
    { kind: 'remove', name: 'sizes' },
  ];
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
      'Vector and animated pictures; images with width descriptors, of which the checks of sizes and of the ladder speak; files whose smaller version saves under the limit for trifles on every screen; files that another placement of the page needs at full width.',
  },
  cut: 'fewer-pixels',
  sureness: 'measured: the picture was encoded at these widths, as the file is now',
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
