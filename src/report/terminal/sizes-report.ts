import { count, group, percent, pixels } from '../../core/wording/words.js';
import { sweptSlot, type ClaimStretch } from '../../core/judging/sizes-stretches.js';
import { readImageMarkup } from '../../core/markup/index.js';
import type { Placement, SlotSweep } from '../../core/run/index.js';
import { plainText } from '../plain-text.js';
import { TextPage, type TerminalStyle } from './layout.js';
import { plotLegend, plotWidths } from './width-plot.js';

/** One group of images that are given, claim and should say the same. */
export interface SizesEntry {
  placement: Placement;
  places: readonly Placement[];
  sweep: SlotSweep;
  claimAt(viewport: number): number | undefined;
  off: readonly ClaimStretch[];
}

const labelled = 12;

/** Slots, claims and the attribute to write, group by group. */
export function sizesReport(
  entries: readonly SizesEntry[],
  problems: readonly { page: string; why: string }[],
  style: TerminalStyle,
): string {
  const page = new TextPage(style);
  const { paint } = page;
  if (entries.length === 0) page.text('No image was found that the selector matches.');
  else page.text(paint.dim(plotLegend));
  for (const entry of entries) {
    page.blank();
    oneEntry(page, entry);
  }
  for (const { page: path, why } of problems)
    page.text(paint.yellow(`${plainText(path)}: ${plainText(why)}`));
  return page.toString();
}

function oneEntry(page: TextPage, { placement, places, sweep, claimAt, off }: SizesEntry): void {
  const { paint } = page;
  const field = (name: string, text: string) => page.text(text, labelled, `  ${paint.dim(name)}`);
  page.text(
    paint.bold(
      `${placeOf(placement)}${places.length > 1 ? ` and ${count(places.length - 1, 'more place')} like it` : ''}`,
    ),
  );
  field('image', plainText(placement.selector));
  const written = presentSizes(placement);
  field('sizes now', written === undefined ? 'none' : plainText(written));
  const claims = claimAt(1280) !== undefined;
  if (sweep.pieces.length > 1 || (claims && sweep.pieces.length > 0)) {
    page.raw(
      plotWidths((viewport) => sweptSlot(sweep, viewport), claimAt, {
        from: 320,
        to: 2560,
        columns: Math.min(72, page.columns - 12),
        rows: 8,
      }).map((line) => `    ${line}`),
    );
  }
  if (sweep.pieces.length > 0) field('slot', slotInWords(sweep));
  field('off', offInWords(off, claims));
  if (placement.candidates.every((url) => /\.svg(?:[?#]|$)/.test(url)))
    field('write', 'nothing: one vector picture serves every width');
  else if (sweep.write === null) field('write', `nothing: ${sweep.reason ?? ''}`);
  else if (sweep.constant !== null)
    field(
      'write',
      `no sizes: the slot is ${pixels(sweep.constant)} px at every width, so use 1x, 2x and 3x descriptors (${pixels(sweep.constant)}, ${pixels(sweep.constant * 2)} and ${pixels(sweep.constant * 3)} px)`,
    );
  else {
    field('write', paint.cyan(`sizes="${sweep.write}"`));
    field(
      'holds',
      `at ${percent(sweep.holds)} of the widths that were measured; off by at most ${pixels(sweep.worst)} px`,
    );
  }
}

function placeOf({ source, page, selector }: Placement): string {
  return plainText(
    source ? `${source.file}:${source.line}:${source.column}` : `${page} ${selector} (made by a script)`,
  );
}

/** The attribute of the first element that has width descriptors. */
function presentSizes({ markup }: Placement): string | undefined {
  const read = readImageMarkup(markup);
  const sizes = read && [...read.sources, read.img].find(({ srcset }) => / \d+w/.test(srcset ?? ''))?.sizes;
  return sizes?.replace(/\s+/g, ' ');
}

const mostPieces = 6;

function slotInWords({ pieces }: SlotSweep): string {
  const words = pieces
    .slice(0, mostPieces)
    .map(({ from, slotFrom, to, slotTo }) =>
      from === to || slotFrom === slotTo
        ? `${group(from)}–${group(to)}: ${pixels(slotFrom)}`
        : `${group(from)}–${group(to)}: ${pixels(slotFrom)} to ${pixels(slotTo)}`,
    );
  return (
    words.join(', ') + (pieces.length > mostPieces ? ` and ${pieces.length - mostPieces} more stretches` : '')
  );
}

function offInWords(off: readonly ClaimStretch[], claims: boolean): string {
  if (!claims) return 'nothing is claimed: there are no width descriptors';
  if (off.length === 0) return 'nowhere by more than a twentieth and 8 px';
  return off
    .map(
      ({ from, to, says, worstAt, claim, slot }) =>
        `${group(from)}–${group(to)}: says ${says}; at ${group(worstAt)} px it says ${pixels(claim)} px for a slot of ${pixels(slot)}`,
    )
    .join('; ');
}
