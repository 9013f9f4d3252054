import { cutOrder, type CutKind, type Taken } from '../bytes/ledger.js';
import type { Finding, LedgerEntry, TrifleCount } from '../run/types.js';
import type { Check, Draft } from './check.js';
import type { Facts } from './facts.js';
import { stateKey, type FileState } from './file-state.js';
import { settle } from './settle.js';
import type { TrifleLimits } from './trifles.js';

/** A draft that policy has kept. */
export interface Kept {
  check: Check;
  draft: Draft;
}

/** A finding with what each screen saves, by the ledger. */
export interface JudgedFinding extends Kept {
  finding: Finding;
  /** By screen: of a visit to this page on this screen. */
  taken: Record<string, Taken>;
}

export interface Judgement {
  findings: JudgedFinding[];
  ledger: LedgerEntry[];
  trifles: TrifleCount;
  /** The facts as the last findings left them: what is taken once all is mended. */
  facts: Facts;
}

/** The stages of judging: what costs no bytes by itself needs no order and comes first. */
const stages: readonly (CutKind | null)[] = [null, ...cutOrder];

/**
 * Runs the checks and applies all policy in one place. They run in the order of the ledger, each on what those before left of the
 * downloads; what is not worth mentioning is set aside; and what remains shares each download's bytes out, so that none is saved
 * twice.
 */
export function judge(checks: readonly Check[], given: Facts): Judgement {
  const trifles: TrifleCount = { findings: 0, bytes: 0 };
  const states = new Map(given.states);
  const facts: Facts = { ...given, states };
  const kept: Kept[] = [];
  for (const stage of stages) {
    const fresh = checks
      .filter(({ cut }) => cut === stage)
      .flatMap((check) => findWorthwhile(check, facts, trifles));
    for (const { draft } of fresh)
      for (const [screen, { leaves }] of Object.entries(draft.screens))
        if (leaves) states.set(stateKey(draft.placement, screen), leaves);
    kept.push(...fresh);
  }
  // Listed in the order of the checks, whatever the order in which they had to run.
  const rank = new Map(checks.map((check, index) => [check, index]));
  kept.sort((a, b) => (rank.get(a.check) ?? 0) - (rank.get(b.check) ?? 0));
  const { taken, ledger } = settle(kept, facts);
  const findings = kept.map(({ check, draft }, index): JudgedFinding => {
    const shares = taken[index] ?? {};
    return { check, draft, taken: shares, finding: toFinding(check, draft, shares, facts) };
  });
  return { findings, ledger, trifles, facts };
}

function findWorthwhile(check: Check, facts: Facts, trifles: TrifleCount): Kept[] {
  const drafts = check.find(facts);
  const worthwhile = new Set(
    drafts
      .filter((draft) => check.cut === null || !isTrifle(check.cut, draft, facts.wishes.trifles))
      .map(({ placement }) => placement.id),
  );
  const kept: Kept[] = [];
  for (const draft of drafts) {
    if (worthwhile.has(draft.placement.id) || sharesWithOne(draft, worthwhile)) kept.push({ check, draft });
    else {
      trifles.findings++;
      trifles.bytes += Math.max(0, ...Object.values(draft.screens).map(({ saves }) => saves));
    }
  }
  return kept;
}

/**
 * A saving is decided on the pessimistic side of its estimate, against what the findings before left. Metadata is no trifle for being
 * a small share: taking it out costs no looks, and every smaller copy would carry it along.
 */
function isTrifle(
  cut: CutKind,
  { placement, screens }: Draft,
  { trifleBytes, trifleShare }: TrifleLimits,
): boolean {
  const share = cut === 'metadata' ? 0 : trifleShare;
  return Object.entries(screens).every(([screen, { saves, of, leaves, error = 0 }]) => {
    const whole = of ?? placement.downloads[screen]?.bytes ?? 0;
    const sure = saves - (leaves?.bytes ?? 0) * error;
    return sure < trifleBytes || sure < whole * share;
  });
}

/** A download that several placements show goes away only when all of them change, whoever claims its bytes. */
function sharesWithOne({ screens }: Draft, worthwhile: ReadonlySet<string>): boolean {
  return Object.values(screens).some(
    ({ sharesWith }) => sharesWith !== undefined && worthwhile.has(sharesWith),
  );
}

function toFinding(check: Check, draft: Draft, taken: Record<string, Taken>, facts: Facts): Finding {
  const screens: Finding['screens'] = {};
  for (const [screen, evidence] of Object.entries(draft.screens)) {
    const share = taken[screen];
    const saves = check.cut === 'later' ? (share?.expected ?? 0) : (share?.whole ?? 0);
    const rest = Object.entries(evidence).filter(
      (entry): entry is [string, number | string | boolean | null] =>
        entry[1] !== undefined && !isState(entry[1]),
    );
    screens[screen] = { ...Object.fromEntries(rest), saves };
  }
  return { check: check.id, placement: draft.placement.id, screens, says: check.words(draft, facts) };
}

const isState = (value: unknown): value is FileState => typeof value === 'object' && value !== null;
