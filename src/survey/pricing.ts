import { wantedEncodes } from '../core/bytes/wanted-encodes.js';
import { defaultTrifles } from '../core/checks/index.js';
import { proposeCandidates, type CandidateProposal } from '../core/fixes/proposal.js';
import type { Incomplete, MeasuredEncode, Placement, SlotSweep } from '../core/run/index.js';
import type { AuditContext } from './context.js';
import { narrowProposals } from './proposals.js';

export interface Prices {
  /** By placement id. */
  proposals: Map<string, CandidateProposal>;
  encodes: MeasuredEncode[];
  incomplete: Incomplete[];
}

/** Proposes candidates for every placement, measures by real encodes what they weigh, and keeps the widths worth offering. */
export async function price(
  context: AuditContext,
  placements: readonly Placement[],
  sweeps: readonly SlotSweep[],
): Promise<Prices> {
  const { images, progress, options } = context;
  const wide = propose(context, placements, sweeps);
  const wanted = wantedEncodes(placements, wide, images.files, defaultTrifles);
  progress.begin('encodes', wanted.length);
  const problems = new Map<string, string>();
  const encodes = await images.encode(
    wanted,
    () => progress.step(),
    (url, why) => problems.set(url, why),
  );
  const incomplete = [...problems].map(([url, why]) => ({
    page: placements.find(({ candidates }) => candidates.includes(url))?.page ?? '',
    screen: null,
    why: `${url} cannot be encoded, so it has no price: ${why}`,
  }));
  return { proposals: narrowProposals(wide, options.screens, encodes), encodes, incomplete };
}

function propose(
  { images, options }: AuditContext,
  placements: readonly Placement[],
  sweeps: readonly SlotSweep[],
): Map<string, CandidateProposal> {
  const written = new Map(sweeps.map((each) => [each.placement, each]));
  const proposals = new Map<string, CandidateProposal>();
  for (const placement of placements) {
    const proposal = proposeCandidates(placement, options.screens, images.files);
    if (!proposal) continue;
    const { write, constant } = written.get(placement.id) ?? {};
    if (typeof write === 'string') proposal.sizes = write;
    if (typeof constant === 'number') proposal.constant = constant;
    proposals.set(placement.id, proposal);
  }
  return proposals;
}
