import { shareOutSavings, type Claim, type Taken } from '../bytes/ledger.js';
import { reachOfScroll } from '../layout/reach.js';
import type { Download, LedgerEntry } from '../run/types.js';
import type { Check, Evidence } from './check.js';
import type { Facts } from './facts.js';
import type { Kept } from './judge.js';
import { sharedDownloads } from './shared-downloads.js';

interface OpenClaim {
  finding: number;
  screen: string;
  claim: Claim;
}

const keyOf = (page: string, screen: string, url: string) => JSON.stringify([page, screen, url]);

/**
 * Shares every download of every visit out among the findings that claim bytes of it. For each entry delivered = remains + the sum of
 * its cuts, in whole bytes.
 * @returns what each finding takes on each screen, in the order of the findings, and the ledger of all downloads
 */
export function settle(
  kept: readonly Kept[],
  facts: Facts,
): { taken: Record<string, Taken>[]; ledger: LedgerEntry[] } {
  const taken = kept.map((): Record<string, Taken> => ({}));
  const claims = collectClaims(kept);
  const placements = new Map(
    sharedDownloads(facts.placements).map((group) => [
      keyOf(group.page, group.screen, group.url),
      group.placements.map(({ id }) => id),
    ]),
  );
  const ledger: LedgerEntry[] = [];
  for (const { path, visits } of facts.pages) {
    for (const { screen, downloads } of visits) {
      const height = facts.screens.find(({ name }) => name === screen)?.height ?? 1;
      for (const download of downloads) {
        const key = keyOf(path, screen, download.url);
        // Of a file that is fetched twice the first transfer is the one that the placements show.
        const own = claims.get(key) ?? [];
        claims.delete(key);
        const reach = reachOf(download, height, facts);
        const shares = shareOutSavings(
          { bytes: download.bytes, reach, inFirstView: download.began === 'first-view' },
          own.map(({ claim }) => claim),
        );
        own.forEach(({ finding }, index) => {
          const share = shares[index];
          const record = taken[finding];
          if (share && record) record[screen] = addTaken(record[screen], share);
        });
        ledger.push(entryOf(path, screen, download, placements.get(key) ?? [], own, shares, reach));
      }
    }
  }
  return { taken, ledger };
}

function reachOf({ began, scrollDepth }: Download, height: number, { reach }: Facts): number {
  return began === 'first-view' ? 1 : reachOfScroll(scrollDepth, height, reach);
}

function collectClaims(kept: readonly Kept[]): Map<string, OpenClaim[]> {
  const claims = new Map<string, OpenClaim[]>();
  kept.forEach(({ check, draft }, finding) => {
    if (check.cut === null) return;
    for (const [screen, evidence] of Object.entries(draft.screens)) {
      const url = evidence.downloadUrl ?? draft.placement.downloads[screen]?.url;
      if (url === undefined || evidence.sharesWith !== undefined) continue;
      const key = keyOf(draft.placement.page, screen, url);
      const list = claims.get(key) ?? [];
      list.push({ finding, screen, claim: claimOf(check, evidence) });
      claims.set(key, list);
    }
  });
  return claims;
}

function claimOf({ cut }: Check, { saves, reachAfter }: Evidence): Claim {
  return {
    kind: cut ?? 'later',
    bytes: saves,
    ...(reachAfter === undefined ? {} : { reachAfter }),
  };
}

function addTaken(before: Taken | undefined, share: Taken): Taken {
  if (!before) return share;
  return {
    whole: before.whole + share.whole,
    firstView: before.firstView + share.firstView,
    expected: before.expected + share.expected,
  };
}

function entryOf(
  page: string,
  screen: string,
  { url, bytes }: Download,
  placements: string[],
  own: readonly OpenClaim[],
  shares: readonly Taken[],
  reach: number,
): LedgerEntry {
  const cuts = own.map(({ finding, claim }, index) => ({
    kind: claim.kind,
    finding,
    bytes: shares[index]?.whole ?? 0,
    expected: shares[index]?.expected ?? 0,
  }));
  const sum = (value: (cut: (typeof cuts)[number]) => number) =>
    cuts.reduce((total, cut) => total + value(cut), 0);
  const expected = Math.round(bytes * reach);
  return {
    page,
    screen,
    url,
    placements,
    delivered: bytes,
    cuts,
    remains: bytes - sum((cut) => cut.bytes),
    expected,
    expectedRemains: expected - sum((cut) => cut.expected),
  };
}
