import { choiceOn } from '../checks/choice.js';
import type { Facts } from '../checks/facts.js';
import { bestSource, existingFile, stateOn } from '../checks/file-state.js';
import { reachOfScroll } from '../layout/reach.js';
import type { ImageFile, Placement } from '../run/types.js';
import { estimateErrors } from '../bytes/price-list.js';
import { canBeWorthwhile } from '../bytes/worthwhile.js';

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
export const pricedFormats: ReadonlySet<string> = new Set(['jpeg', 'png', 'webp', 'avif', 'gif', 'svg']);

/**
 * The pictures whose encodes decide about findings, those with the most bytes at stake first. Files of which nothing above a trifle can
 * be saved are left out.
 */
export function wantedPrices(facts: Facts): WantedPrice[] {
  const wants = new Map<string, OpenWant>();
  const weights = new Map(facts.pages.map(({ path, weight }) => [path, weight]));
  for (const placement of facts.placements)
    addPlacement(placement, weights.get(placement.page) ?? 0, facts, wants);
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
  const proposal = facts.proposals.get(placement.id);
  for (const { name, height, share } of facts.screens) {
    const download = placement.downloads[name];
    const state = stateOn(placement, name, facts);
    if (!download || !state || download.bytes < facts.wishes.trifles.trifleBytes) continue;
    const file = masterFile(placement, facts) ?? facts.files.get(download.url);
    if (!file || !pricedFormats.has(file.format) || file.width === 0) continue;
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
    const from = facts.files.get(download.url)?.width ?? file.width;
    const proposed = proposal?.screens[name]?.width ?? from;
    const shrinks =
      proposal && canBeWorthwhile(download.bytes, from, proposed, facts.wishes.trifles) && !file.animated;
    if (shrinks) for (const width of proposal.widths) want.make.add(Math.min(width, file.width));
    else for (const width of widthsOn(placement, name, facts)) want.have.add(Math.min(width, file.width));
    const reach =
      download.began === 'first-view' ? 1 : reachOfScroll(download.scrollDepth, height, facts.reach);
    want.downloads.set(
      JSON.stringify([placement.page, name, download.url]),
      weight * share * reach * download.bytes,
    );
  }
}

const ascending = (widths: ReadonlySet<number>) => [...widths].sort((a, b) => a - b);

/** The placement's best source, if it shows the same as what is delivered. */
function masterFile(placement: Placement, facts: Facts): ImageFile | undefined {
  const state = Object.keys(placement.downloads)
    .map((screen) => stateOn(placement, screen, facts))
    .find((each) => each !== undefined);
  return state && bestSource(placement, state, facts);
}

/** What the screen takes now, and what it would take if `sizes` said the truth. */
function widthsOn(placement: Placement, screen: string, facts: Facts): number[] {
  const state = stateOn(placement, screen, facts);
  const description = facts.screens.find(({ name }) => name === screen);
  const choice = description && choiceOn(placement, description, facts);
  const right = choice ? existingFile(choice.right).width : 0;
  return [state?.width ?? 0, right].filter((width) => width > 0);
}

/** Bytes grow with a power of the number of pixels between these two. */
const [flattest, steepest] = [0.56, 1.03];

/**
 * Whether a file cannot be a finding of heavier encoding, judged from one cheap encode at equal looks: even if the picture's bytes grow as
 * little as those of any picture, its own are no more than needed.
 * @param glance bytes at equal looks of a smaller version, and its width in device px
 */
export function isEconomical(
  { bytes, width }: { bytes: number; width: number },
  glance: { bytes: number; width: number },
  worthwhileShare: number,
): boolean {
  const ratio = (width / glance.width) ** 2;
  const least = glance.bytes * ratio ** (ratio >= 1 ? flattest : steepest);
  // A claim from there would be an estimate, and decided on its pessimistic side.
  return bytes * (1 - worthwhileShare) <= least * (1 + estimateErrors.beyond);
}
