/** The order in which savings are taken from a download. Each takes from what the ones before left. */
export const cutOrder = [
  'unneeded',
  'metadata',
  'fewer-pixels',
  'better-encoding',
  'newer-format',
  'later',
] as const;
export type CutKind = (typeof cutOrder)[number];

/** One download of one page on one screen. */
export interface LedgerDownload {
  bytes: number;
  /** Probability that a visit causes it, 0 to 1. */
  reach: number;
  inFirstView: boolean;
}

/** A claim of one finding on a download. */
export interface Claim {
  kind: CutKind;
  /** Bytes that the finding would take off the transfer by itself; not used by `later`. */
  bytes: number;
  /** For `later`: the probability that a visit causes the download afterwards, 0 to 1. */
  reachAfter?: number;
}

export interface Taken {
  /** Off the transfer of a fully scrolled page. */
  whole: number;
  firstView: number;
  /** Expected bytes per visit of this page on this screen. */
  expected: number;
}

/**
 * Shares a download's savings out among claims, so that no byte is saved twice: the sum of `expected` over the
 * result is what the download's expected bytes fall by. All results are whole bytes.
 * @returns one entry per claim, in the order given
 */
export function shareOutSavings(download: LedgerDownload, claims: readonly Claim[]): Taken[] {
  const order = claims
    .map((claim, index) => ({ claim, index }))
    .sort((a, b) => cutOrder.indexOf(a.claim.kind) - cutOrder.indexOf(b.claim.kind) || a.index - b.index);
  const taken = claims.map((): Taken => ({ whole: 0, firstView: 0, expected: 0 }));
  let remaining = download.bytes;
  let reach = download.reach;
  let inFirstView = download.inFirstView;
  const expectedOf = (bytes: number, share: number) => Math.round(bytes * share);
  for (const { claim, index } of order) {
    const before = expectedOf(remaining, reach);
    const entry = taken[index];
    if (!entry) continue;
    if (claim.kind === 'later') {
      const after = Math.min(reach, claim.reachAfter ?? reach);
      entry.firstView = inFirstView ? remaining : 0;
      entry.expected = before - expectedOf(remaining, after);
      reach = after;
      inFirstView = false;
    } else {
      const cut = Math.max(0, Math.min(remaining, Math.round(claim.bytes)));
      remaining -= cut;
      entry.whole = cut;
      entry.firstView = inFirstView ? cut : 0;
      entry.expected = before - expectedOf(remaining, reach);
    }
  }
  return taken;
}
