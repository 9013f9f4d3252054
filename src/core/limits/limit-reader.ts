import { groupBy } from '../grouping.js';
import { pageOf } from '../run/placement-id.js';
import type { Fix, LedgerEntry, Run, VisitRecord } from '../run/types.js';
import type { Breach, Measure } from './limits.js';

const keyOf = (page: string, screen: string) => JSON.stringify([page, screen]);

/** What pages of one run weigh and do, and what each fix takes off. Large runs have thousands of visits: each is found by its name. */
export class LimitReader {
  readonly #visits: ReadonlyMap<string, VisitRecord>;
  readonly #ledger: ReadonlyMap<string, readonly LedgerEntry[]>;
  /** Positions of the findings of each page. */
  readonly #findings: ReadonlyMap<string, readonly number[]>;

  constructor(readonly run: Readonly<Run>) {
    this.#visits = new Map(
      run.pages.flatMap(({ path, visits }) =>
        visits.map((visit) => [keyOf(path, visit.screen), visit] as const),
      ),
    );
    this.#ledger = groupBy(run.ledger, ({ page, screen }) => keyOf(page, screen));
    this.#findings = groupBy(run.findings.keys(), (index) => pageOf(run.findings[index]?.placement ?? ''));
  }

  /** Undefined where the visit saw nothing of the page. */
  value(page: string, screen: string, what: Measure): number | undefined {
    const visit = this.#visits.get(keyOf(page, screen));
    if (!visit || visit.state === 'unseen' || visit.state === 'redirected') return undefined;
    if (what === 'firstView' || what === 'whole') return visit[what].bytes;
    if (what === 'shift') return visit.shift.score;
    return this.#entries(page, screen).reduce(
      (sum, { expected, expectedRemains }) =>
        sum + (what === 'expected' ? expected : expected - expectedRemains),
      0,
    );
  }

  count(page: string, check: string): number {
    return this.#findingsOf(page, check).length;
  }

  /** The fixes that take so much off what one screen has of a page. */
  cure(page: string, screen: string, what: Measure, over: number): Pick<Breach, 'fixes' | 'cured'> {
    const off = what === 'shift' ? this.#shiftOff(page, screen) : this.#bytesOff(page, screen, what);
    return this.#gather(over, ({ id }) => off.get(id) ?? 0);
  }

  /** The fixes that take so many findings of a check off a page. */
  cureCheck(page: string, check: string, over: number): Pick<Breach, 'fixes' | 'cured'> {
    const own = new Set(this.#findingsOf(page, check));
    return this.#gather(over, ({ kind, findings }) =>
      kind === 'edit' ? findings.filter((index) => own.has(index)).length : 0,
    );
  }

  #entries(page: string, screen: string): readonly LedgerEntry[] {
    return this.#ledger.get(keyOf(page, screen)) ?? [];
  }

  #findingsOf(page: string, check: string): number[] {
    return (this.#findings.get(page) ?? []).filter(
      (index) => check === '*' || this.run.findings[index]?.check === check,
    );
  }

  /** Fixes from the top of the list that take something off, until enough is off. */
  #gather(over: number, takesOff: (fix: Fix) => number): Pick<Breach, 'fixes' | 'cured'> {
    const fixes: string[] = [];
    let off = 0;
    for (const fix of this.run.fixes) {
      if (off >= over) break;
      const own = takesOff(fix);
      if (own <= 0) continue;
      fixes.push(fix.id);
      off += own;
    }
    return { fixes, cured: off >= over };
  }

  /** Bytes that each fix takes off, by its id. */
  #bytesOff(page: string, screen: string, what: Measure): Map<string, number> {
    const { downloads = [] } = this.#visits.get(keyOf(page, screen)) ?? {};
    const inFirstView = new Set(
      downloads.filter(({ began }) => began === 'first-view').map(({ url }) => url),
    );
    const off = new Map<string, number>();
    for (const { url, cuts } of this.#entries(page, screen)) {
      if (what === 'firstView' && !inFirstView.has(url)) continue;
      for (const { fix, bytes, expected } of cuts)
        off.set(fix, (off.get(fix) ?? 0) + (what === 'expected' || what === 'saved' ? expected : bytes));
    }
    return off;
  }

  /** What the images that each fix is for move when they come, as the checks saw it on this screen. */
  #shiftOff(page: string, screen: string): Map<string, number> {
    const here = new Set(this.#findings.get(page));
    return new Map(
      this.run.fixes
        .filter(({ shift }) => shift > 0)
        .map(({ id, findings }) => {
          const byPlacement = new Map<string, number>();
          for (const index of findings) {
            const finding = here.has(index) ? this.run.findings[index] : undefined;
            const shift = finding?.screens[screen]?.['shift'];
            if (finding && typeof shift === 'number')
              byPlacement.set(finding.placement, Math.max(byPlacement.get(finding.placement) ?? 0, shift));
          }
          return [id, [...byPlacement.values()].reduce((sum, each) => sum + each, 0)] as const;
        }),
    );
  }
}
