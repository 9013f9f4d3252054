import { shareOutSavings, type Claim, type Taken } from '../bytes/ledger.js';
import { reachOfScroll } from '../layout/reach.js';
import type { Finding, TrifleCount } from '../run/types.js';
import type { Check, Draft, Evidence } from './check.js';
import type { Facts } from './facts.js';
import { defaultTrifles, type TrifleLimits } from './trifles.js';

/** A finding with what each screen saves, by the ledger. */
export interface JudgedFinding {
  check: Check;
  draft: Draft;
  finding: Finding;
  /** By screen: of a visit to this page on this screen. */
  taken: Record<string, Taken>;
}

export interface Judgement {
  findings: JudgedFinding[];
  trifles: TrifleCount;
}

/**
 * Runs the checks and applies all policy in one place: first what is not worth mentioning is set aside, then what
 * remains shares each download's bytes out, so that none is saved twice.
 */
export function judge(
  checks: readonly Check[],
  facts: Facts,
  options: TrifleLimits = defaultTrifles,
): Judgement {
  const trifles: TrifleCount = { findings: 0, bytes: 0 };
  const kept: { check: Check; draft: Draft }[] = [];
  for (const check of checks) {
    const drafts = check.find(facts);
    const worthwhile = new Set(
      drafts
        .filter((draft) => check.cut === null || !isTrifle(draft, options))
        .map(({ placement }) => placement.id),
    );
    for (const draft of drafts) {
      if (worthwhile.has(draft.placement.id) || sharesWithOne(draft, worthwhile)) kept.push({ check, draft });
      else {
        trifles.findings++;
        trifles.bytes += Math.max(0, ...Object.values(draft.screens).map(({ saves }) => saves));
      }
    }
  }
  const taken = settle(kept, facts);
  const findings = kept.map(({ check, draft }, index): JudgedFinding => {
    const shares = taken[index] ?? {};
    return { check, draft, taken: shares, finding: toFinding(check, draft, shares, facts) };
  });
  return { findings, trifles };
}

function isTrifle({ placement, screens }: Draft, { trifleBytes, trifleShare }: TrifleLimits): boolean {
  return Object.entries(screens).every(([screen, { saves }]) => {
    const whole = placement.downloads[screen]?.bytes ?? 0;
    return saves < trifleBytes || saves < whole * trifleShare;
  });
}

/** A download that several placements show goes away only when all of them change, whoever claims its bytes. */
function sharesWithOne({ screens }: Draft, worthwhile: ReadonlySet<string>): boolean {
  return Object.values(screens).some(
    ({ sharesWith }) => sharesWith !== undefined && worthwhile.has(sharesWith),
  );
}

function settle(kept: readonly { check: Check; draft: Draft }[], facts: Facts): Record<string, Taken>[] {
  const taken = kept.map((): Record<string, Taken> => ({}));
  const claimsByDownload = new Map<string, { index: number; screen: string; claim: Claim }[]>();
  kept.forEach(({ check, draft }, index) => {
    if (check.cut === null) return;
    for (const [screen, evidence] of Object.entries(draft.screens)) {
      const download = draft.placement.downloads[screen];
      if (!download || evidence.sharesWith !== undefined) continue;
      const key = JSON.stringify([draft.placement.page, screen, download.url]);
      const claims = claimsByDownload.get(key) ?? [];
      claims.push({ index, screen, claim: claimOf(check, evidence) });
      claimsByDownload.set(key, claims);
    }
  });
  for (const claims of claimsByDownload.values()) {
    const [first] = claims;
    const placement = kept[first?.index ?? -1]?.draft.placement;
    const download = placement?.downloads[first?.screen ?? ''];
    const height = facts.screens.find(({ name }) => name === first?.screen)?.height ?? 1;
    if (!download) continue;
    const inFirstView = download.began === 'first-view';
    const reach = inFirstView ? 1 : reachOfScroll(download.scrollDepth, height, facts.reach);
    const shares = shareOutSavings(
      { bytes: download.bytes, reach, inFirstView },
      claims.map(({ claim }) => claim),
    );
    claims.forEach(({ index, screen }, position) => {
      const share = shares[position];
      const record = taken[index];
      if (share && record) record[screen] = share;
    });
  }
  return taken;
}

function claimOf({ cut }: Check, { saves, reachAfter }: Evidence): Claim {
  return {
    kind: cut ?? 'later',
    bytes: saves,
    ...(reachAfter === undefined ? {} : { reachAfter }),
  };
}

function toFinding(check: Check, draft: Draft, taken: Record<string, Taken>, facts: Facts): Finding {
  const screens: Finding['screens'] = {};
  for (const [screen, evidence] of Object.entries(draft.screens)) {
    const share = taken[screen];
    const saves = check.cut === 'later' ? (share?.expected ?? 0) : (share?.whole ?? 0);
    const rest = Object.fromEntries(Object.entries(evidence).filter(([, value]) => value !== undefined));
    screens[screen] = { ...(rest as Record<string, number | string | boolean | null>), saves };
  }
  return { check: check.id, placement: draft.placement.id, screens, says: check.words(draft, facts) };
}
