import { fixLedgers, type FixLedger } from '../../core/reporting/fix-ledger.js';
import { summarisePages, type PageSummary } from '../../core/reporting/page-summary.js';
import { indexRun, slotPlot, type SlotPlot } from '../../core/reporting/slot-plot.js';
import type { Mended } from '../../core/mending/mended.js';
import type { Proof } from '../../core/mending/proof.js';
import type { Fix, FixDetail, PageViews, ReportPictures, Run } from '../../core/run/index.js';

/** What a mended copy proved. */
export interface Proved {
  mended: Pick<Mended, 'fixes'>;
  proof: Proof;
}

/** A run as the page's parts ask for it. */
export class ReportView {
  readonly ledgers: ReadonlyMap<string, FixLedger>;
  readonly pages: readonly PageSummary[];
  readonly details: ReadonlyMap<string, FixDetail>;
  /** Expected bytes of the fix that saves most; at least 1. */
  readonly largestSaving: number;
  readonly #numbers: ReadonlyMap<string, number>;
  readonly #index;

  constructor(
    readonly run: Readonly<Run>,
    readonly pictures: ReportPictures | undefined,
    readonly proved: Proved | undefined,
  ) {
    this.ledgers = fixLedgers(run);
    this.pages = summarisePages(run);
    this.details = new Map((pictures?.details ?? []).map((each) => [each.fix, each]));
    this.largestSaving = Math.max(1, ...run.fixes.map(({ saves }) => saves.expected));
    this.#numbers = new Map(run.pages.map(({ path }, index) => [path, index]));
    this.#index = indexRun(run);
  }

  pageNumber = (path: string): number => this.#numbers.get(path) ?? -1;
  slotPlot = (fix: Fix): SlotPlot | undefined => slotPlot(fix, this.#index);
  templateOf = (placement: string): string => this.#index.placements.get(placement)?.template ?? '';

  viewsOf = (page: string): PageViews[] => (this.pictures?.views ?? []).filter((each) => each.page === page);

  /** Positions of the screens on which a fix does something. */
  screensOf = (fix: Fix): number[] => {
    const findings = fix.findings.flatMap((index) => this.run.findings[index] ?? []);
    return this.run.screens.flatMap(({ name }, index) =>
      (fix.saves.screens[name] ?? 0) !== 0 || findings.some(({ screens }) => name in screens) ? [index] : [],
    );
  };
}
