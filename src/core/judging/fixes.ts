import { groupBy } from '../grouping.js';
import { ClaimReader, type Candidate } from '../plan/claims.js';
import { unitOf } from '../plan/units.js';
import type { Finding, Fix, LedgerEntry, Placement } from '../run/types.js';
import type { Facts } from './facts.js';
import { averageShift, feltRank, visitsTouched } from './felt.js';
import type { Judgement, Kept } from './judge.js';
import { Clusters } from './clusters.js';
import { followPreloads } from './follow.js';
import type { FixGroup } from './fix-group.js';
import { FixWriter } from './fix-writer.js';
import { shareFindings } from './finding-shares.js';

/** Findings, the fixes that remove them in the order in which they are worth making, and where all bytes go. */
export interface Written {
  findings: Finding[];
  fixes: Fix[];
  ledger: LedgerEntry[];
}

/**
 * Groups what was found into fixes, orders them by what each adds to those above, and writes what to paste. What cannot be written is
 * taken back with its findings, and the rest is claimed anew: what was its may be theirs.
 */
export function writeFixes(judgement: Judgement): Written {
  const { facts } = judgement;
  const givenUp = new Set<string>();
  for (let kept = judgement.kept; ;) {
    const { claimed, groups, ledger } = claimFixes({ ...judgement, kept });
    const writer = new FixWriter({ ...judgement, kept }, groups);
    const spoiled: FixGroup[] = [];
    const fixes = claimed.flatMap(({ group, claim }) => {
      const write = (some: FixGroup) => writer.write(some, claim, ledger);
      try {
        return write(group);
      } catch (cause) {
        spoiled.push(spoiledIn(group, write, kept, facts, cause));
        return [];
      }
    });
    if (spoiled.length === 0)
      return { findings: shareFindings(kept, groups, ledger, facts.screens), fixes, ledger };
    const gone = new Set(spoiled.flatMap(({ findings }) => findings));
    const before = givenUp.size;
    for (const { byHand, placements } of spoiled)
      if (!byHand) for (const { id } of placements) givenUp.add(id);
    if (gone.size === 0 && givenUp.size === before)
      throw new Error('What cannot be written cannot be taken back either. This is a fault of the program.');
    takeBack(givenUp, judgement);
    kept = kept.filter((_, index) => !gone.has(index));
  }
}

/** The images of a group that cannot be written, each noted; all of them where nobody can say which. */
function spoiledIn(
  group: FixGroup,
  write: (some: FixGroup) => unknown,
  kept: readonly Kept[],
  { faults }: Facts,
  cause: unknown,
): FixGroup {
  const own = (placement: Placement) =>
    group.findings.filter((index) => kept[index]?.found.placement === placement);
  const placements = group.placements.filter(
    (placement) =>
      faults.attempt('writing a fix', placement, () =>
        write({ ...group, placements: [placement], findings: own(placement) }),
      ) === undefined,
  );
  if (placements.length > 0) return { ...group, placements, findings: placements.flatMap(own) };
  faults.note('writing a fix', group.placements[0] ?? { page: '' }, cause);
  return group;
}

/** Leaves images as they are; preloads that were written for them are written anew for what they are now. */
function takeBack(givenUp: ReadonlySet<string>, { facts, following }: Judgement): void {
  const isGivenUp = ({ id }: Placement) => givenUp.has(id);
  const pages = new Set(facts.placements.filter(isGivenUp).map(({ page }) => page));
  const follows = ({ kind, page }: Placement) => kind === 'preload' && pages.has(page);
  for (const placement of facts.placements)
    if (isGivenUp(placement) || follows(placement)) facts.plan.takeBack(placement);
  followPreloads(
    { ...facts, placements: facts.placements.filter((each) => !(isGivenUp(each) && follows(each))) },
    following,
  );
}

/** Expected bytes of each fix in its order, without what it writes. */
export function rankFixes(judgement: Judgement): { templates: string[]; expected: number }[] {
  return claimFixes(judgement).claimed.map(({ group, claim }) => ({
    templates: [...new Set(group.placements.map(({ template }) => template))].sort(),
    expected: claim.share.expected,
  }));
}

/** The groups as found, and in the order in which they are worth making with what each claims. */
function claimFixes(judgement: Judgement) {
  const reader = new ClaimReader(judgement.facts.plan);
  const groups = groupFixes(judgement, reader);
  const byId = new Map(groups.map((group) => [group.id, group]));
  const { fixes, ledger } = reader.read(groups.map((group) => toCandidate(group, judgement)));
  const claimed = fixes.flatMap((claim) => {
    const group = byId.get(claim.id);
    return group ? [{ group, claim }] : [];
  });
  return { groups, claimed, ledger };
}

function groupFixes({ kept, facts }: Judgement, reader: ClaimReader): FixGroup[] {
  const { plan, placements, framed } = facts;
  const indices = [...kept.keys()];
  const isPlanned = (index: number) => kept[index]?.planned === true;
  const findings = groupBy(indices.filter(isPlanned), (index) => kept[index]?.found.placement.id ?? '');
  const units = groupBy(
    placements.filter((placement) => plan.isChanged(placement) && !framed.ownerOf(placement)),
    (placement) => `${unitOf(placement, plan)} ${editOf(findings.get(placement.id) ?? [], kept)}`,
  );
  const joined = joinUnits(units, reader);
  const edits = joined.map((group): FixGroup => {
    const own = group
      .flatMap((unit) => units.get(unit) ?? [])
      .flatMap((placement) => [placement, ...framed.framedOf(placement)]);
    return {
      id: `fix.${shortHash(group.join('\n'))}`,
      placements: own,
      findings: own.flatMap(({ id }) => findings.get(id) ?? []).sort((a, b) => a - b),
      byHand: false,
    };
  });
  const byHand = groupBy(
    indices.filter((index) => !isPlanned(index)),
    (index) => `${kept[index]?.check.id ?? ''} ${kept[index]?.found.placement.template ?? ''}`,
  );
  const told = [...byHand].map(([key, own]): FixGroup => ({
    id: `hand.${shortHash(key)}`,
    placements: own.flatMap((index) => kept[index]?.found.placement ?? []),
    findings: own,
    byHand: true,
  }));
  return [...edits, ...told];
}

/** How checks change files: one that changes their widths, their format or their encoding writes a text of one kind. */
const kinds: Readonly<Record<string, string>> = {
  'more-pixels-than-needed': 'files',
  'heavier-encoding': 'files',
  'photo-stored-lossless': 'files',
  'svg-carries-ballast': 'files',
  'carried-metadata': 'files',
  'older-format': 'files',
  'sizes-overstates': 'sizes',
  'sizes-missing': 'sizes',
  'sizes-understates': 'sizes',
  'sizes-off-between-screens': 'sizes',
};

/** What the findings of a placement edit: only where that is the same, one text can stand for others. */
function editOf(findings: readonly number[], kept: readonly Kept[]): string {
  const edits = findings.flatMap((index) => kept[index]?.check.id ?? []).map((id) => kinds[id] ?? id);
  return [...new Set(edits)].sort().join(',');
}

/** Edits of which each alone saves less than they do together are one fix: a file goes away only when nothing shows it any more. */
function joinUnits(units: ReadonlyMap<string, readonly Placement[]>, reader: ClaimReader): string[][] {
  const clusters = new Clusters<string>();
  for (const unit of units.keys()) clusters.add(unit);
  const candidates = [...units].map(([id, placements]): Candidate => ({ id, placements, rank: [] }));
  for (const group of reader.sharing(candidates)) {
    const alone = group.reduce((sum, { placements }) => sum + reader.worthOf(placements), 0);
    const together = reader.worthOf(group.flatMap(({ placements }) => placements));
    const [first, ...others] = group;
    if (first && together > alone + Math.max(leastGain, Math.abs(alone) * 0.001))
      for (const other of others) clusters.join(first.id, other.id);
  }
  return clusters.list();
}

/** Less than this is rounding. Bytes of an average visit. */
const leastGain = 1;

function toCandidate({ id, placements, findings, byHand }: FixGroup, { kept, facts }: Judgement): Candidate {
  const cases = findings.flatMap((index) => kept[index]?.found ?? []);
  return {
    id,
    placements: byHand ? [] : placements,
    rank: [
      feltRank(findings.flatMap((index) => kept[index]?.check.id ?? [])),
      averageShift(cases, facts),
      visitsTouched(cases, facts),
      -(findings[0] ?? 0),
    ],
  };
}

/** FNV-1a, 32 bit: names a fix by what it edits, so that it has the same name in the next run. */
function shortHash(text: string): string {
  let hash = 0x811c9dc5;
  for (let index = 0; index < text.length; index++) {
    hash = Math.imul(hash ^ text.charCodeAt(index), 0x01000193);
  }
  return (hash >>> 0).toString(36);
}
