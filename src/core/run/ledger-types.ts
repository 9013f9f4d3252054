/** How the pictures were priced. Numbers of pictures. */
export interface PricingSummary {
  /** Quality of the JPEG that stands for equal looks. */
  looks: number;
  /** Those of which more than a trifle could be saved. */
  worthPricing: number;
  /** Those that were really encoded. */
  encoded: number;
  /** Of the encoded ones those that no other encoding or format makes worthwhile lighter. */
  economical: number;
  /** Not encoded, so that their bytes at other widths are guesses from the file alone. */
  left: number;
  /** Whether the limit of time stopped the encodes. */
  limited: boolean;
}

/** What one fix takes off a download. */
export interface LedgerCut {
  /**
   * Its place in the fixed order: `repair`, `unneeded`, `metadata`, `fewer-pixels`, `better-encoding`, `newer-format` or `later`.
   */
  kind: string;
  /** Id of the fix. */
  fix: string;
  /** Bytes off the transfers that show what this download shows now; negative where they grow. */
  bytes: number;
  /** Expected bytes off an average visit of this page on this screen. */
  expected: number;
}

/** One download of one page on one screen, and where its bytes go. delivered = remains + the sum of the cuts. */
export interface LedgerEntry {
  page: string;
  screen: string;
  url: string;
  /** Placements that show it. */
  placements: string[];
  delivered: number;
  cuts: LedgerCut[];
  remains: number;
  /** The same in expected bytes. */
  expected: number;
  expectedRemains: number;
}
