import { choiceOn } from '../judging/choice.js';
import { encodedOn } from '../judging/encodings.js';
import type { Facts } from '../judging/facts.js';
import { masterFor, sameShape } from '../plan/changes.js';
import { makingOf } from '../plan/making.js';
import { shapeDifference } from '../plan/shape-difference.js';
import type { CandidateProposal } from '../plan/proposal.js';
import { reachOfDownload } from '../plan/taken.js';
import type { ImageFile, Placement, Screen } from '../run/types.js';
import { estimateErrors } from '../bytes/price-list.js';
import { sameSize } from '../bytes/probe-plan.js';
import { mostlyContainer } from '../bytes/trifles.js';

/** A picture whose prices are worth knowing. */
export interface WantedPrice {
  file: ImageFile;
  /** Device px at which a price is asked for. */
  widths: { make: number[]; have: number[] };
  /** Expected bytes per average visit that are delivered of it: no fix can save more. */
  stake: number;
  /** Templates of the placements that show it. */
  templates: string[];
}

interface OpenWant {
  file: ImageFile;
  make: Set<number>;
  have: Set<number>;
  downloads: Map<string, number>;
  templates: Set<string>;
}

/** Formats of which encodes are made, or which are cleaned. */
export const pricedFormats: ReadonlySet<string> = new Set([
  'jpeg',
  'png',
  'webp',
  'avif',
  'gif',
  'bmp',
  'svg',
]);

/**
 * The pictures whose encodes decide about findings, those with the most bytes at stake first. Files of which nothing above a trifle can
 * be saved are left out.
 */
export function wantedPrices(facts: Facts): WantedPrice[] {
  const wants = new Map<string, OpenWant>();
  const weights = new Map(facts.pages.map(({ path, weight }) => [path, weight]));
  for (const placement of facts.placements)
    facts.faults.attempt('choosing what to encode', placement, () =>
      addPlacement(placement, weights.get(placement.page) ?? 0, facts, wants),
    );
  return [...wants.values()]
    .map(({ file, make, have, downloads, templates }) => ({
      file,
      widths: { make: ascending(make), have: ascending(have) },
      stake: [...downloads.values()].reduce((sum, each) => sum + each, 0),
      templates: [...templates].sort(),
    }))
    .sort((a, b) => b.stake - a.stake || (a.file.url < b.file.url ? -1 : 1));
}

function addPlacement(
  placement: Placement,
  weight: number,
  facts: Facts,
  wants: Map<string, OpenWant>,
): void {
  if (placement.kind === 'preload') return;
  for (const screen of facts.screens) {
    const download = placement.downloads[screen.name];
    const taken = facts.plan.taken(placement, screen.name);
    if (!download || !taken || download.bytes < mostlyContainer) continue;
    const source = facts.plan.stateOf(placement)?.sources[taken.source];
    const origin = source?.origin ?? null;
    const proposal = origin === null ? undefined : facts.plan.proposals(placement).get(origin);
    const file = masterOn(placement, screen, proposal, facts);
    if (!file || file.truncated || !pricedFormats.has(file.format) || file.width === 0) continue;
    if (file.animated && file.format !== 'gif') continue;
    const want: OpenWant = wants.get(file.url) ?? {
      file,
      make: new Set(),
      have: new Set(),
      downloads: new Map(),
      templates: new Set(),
    };
    wants.set(file.url, want);
    want.templates.add(placement.template);
    const proposed = proposal?.screens[screen.name]?.width ?? taken.file.width;
    if (proposal && proposed < taken.file.width * nearlyAsWide && !file.animated)
      for (const width of proposal.widths) want.make.add(Math.min(width, file.width));
    else for (const width of widthsOn(placement, screen, facts)) want.have.add(Math.min(width, file.width));
    want.downloads.set(
      JSON.stringify([placement.page, screen.name, download.url]),
      weight * screen.share * reachOfDownload(download, screen, facts.reach) * download.bytes,
    );
  }
}

/** A proposal is worth its encodes from here on. */
const nearlyAsWide = 0.95;

const ascending = (widths: ReadonlySet<number>) => [...widths].sort((a, b) => a - b);

/** The best file of the picture that a screen takes. */
function masterOn(
  placement: Placement,
  screen: Screen,
  proposal: CandidateProposal | undefined,
  facts: Facts,
): ImageFile | undefined {
  const taken = facts.plan.taken(placement, screen.name);
  const best = proposal && makingOf(proposal).from;
  if (!taken) return undefined;
  if (!best) return encodedOn(placement, screen, facts)?.priced ?? facts.files.get(taken.file.url);
  // Nothing has a price yet: the widest file of the same shape will have one.
  const own = facts.files.get(taken.file.url);
  return (!own || shapeDifference(own, best) <= sameShape) && best.width >= taken.file.width
    ? best
    : facts.files.get(masterFor(taken.file, undefined, facts.plan.book));
}

/** What the screen takes now, and what it would take if `sizes` said the truth. */
function widthsOn(placement: Placement, screen: Screen, facts: Facts): number[] {
  const taken = facts.plan.taken(placement, screen.name)?.file.width ?? 0;
  const right = choiceOn(placement, screen, facts)?.right.width ?? 0;
  return [taken, right].filter((width) => width > 0);
}

/** Bytes grow with a power of the number of pixels between these two. */
const [flattest, steepest] = [0.56, 1.03];

/** A cheap encode at equal looks of a smaller version: its bytes, and its width in device px. */
export interface Glance {
  bytes: number;
  width: number;
}

/** The widths at which a picture is glanced at, so that its files are judged from near by, px: the smallest of them, and the picture itself. */
export function glanceWidths(own: number, delivered: readonly number[]): number[] {
  // Near its own size the least that the picture can weigh is known closely; nearer still an encode would be compared with the file's own faults.
  const near = Math.max(smallestGlance, Math.round(own * sameSize));
  const smaller = delivered.filter((width) => width <= own * sameSize && width >= smallestGlance);
  const widths = delivered.some((width) => width > own * sameSize)
    ? [near]
    : [Math.max(...smaller, smallestGlance)];
  const [least] = [...smaller].sort((a, b) => a - b);
  if (least !== undefined && !widths.some((width) => width / least < farOff)) widths.unshift(least);
  return widths;
}

const smallestGlance = 16;
/** Two widths within this ratio are judged from one glance. */
const farOff = 1.5;

/**
 * Whether a file cannot be a finding of heavier encoding, judged from cheap encodes at equal looks: even if the picture's bytes grow as
 * little as those of any picture, its own are no more than needed.
 */
export function isEconomical(
  { bytes, width }: { bytes: number; width: number },
  glances: readonly Glance[],
  worthwhileShare: number,
): boolean {
  const below = glances.filter((each) => each.width <= width).sort((a, b) => b.width - a.width)[0];
  const above = glances.filter((each) => each.width >= width).sort((a, b) => a.width - b.width)[0];
  const worth = bytes * (1 - worthwhileShare);
  if (below && above) return worth <= between(below, above, width);
  const nearest = below ?? above;
  if (!nearest) return false;
  const ratio = (width / nearest.width) ** 2;
  const least = nearest.bytes * ratio ** (ratio >= 1 ? flattest : steepest);
  // A claim from there would be an estimate, and decided on its pessimistic side.
  return worth <= least * (1 + estimateErrors.beyond);
}

/** Bytes on the straight line through two points, in logarithms of both. */
function between(below: Glance, above: Glance, width: number): number {
  if (below.width === above.width) return below.bytes;
  const way = Math.log(width / below.width) / Math.log(above.width / below.width);
  return below.bytes * (above.bytes / below.bytes) ** way;
}
