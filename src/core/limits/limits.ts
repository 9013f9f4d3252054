import type { Run } from '../run/types.js';

/** What a user lets pages weigh and do at most. Bytes; layout-shift values; numbers of findings. */
export interface Limit {
  /** Whether it holds for a page, by its path. */
  holdsOn(page: string): boolean;
  /** Names of screens; all if left out. */
  screens?: readonly string[] | undefined;
  firstView?: number | undefined;
  expected?: number | undefined;
  whole?: number | undefined;
  /** What fixes could still save, expected bytes. */
  saved?: number | undefined;
  shift?: number | undefined;
  /** Findings of each check on a page at most. */
  checks?: Readonly<Record<string, number>> | undefined;
}

export type Measure = 'firstView' | 'expected' | 'whole' | 'saved' | 'shift';

/** One limit that one page goes beyond. */
export interface Breach {
  page: string;
  /** Null for what is counted on all screens together. */
  screen: string | null;
  /** A measure, or the id of a check. */
  what: string;
  value: number;
  most: number;
  /** The fixes from the top of the list that it takes to come under the limit. */
  fixes: string[];
  /** Whether they are enough. */
  cured: boolean;
}

const measures: readonly Measure[] = ['firstView', 'expected', 'whole', 'saved', 'shift'];

/** Every limit that a page of a run goes beyond, in the order of pages, screens and measures. */
export function breachesOf(run: Readonly<Run>, limits: readonly Limit[]): Breach[] {
  if (limits.length === 0) return [];
  const reader = new LimitReader(run);
  return run.pages.flatMap(({ path }) => {
    const own = limits.filter((limit) => limit.holdsOn(path));
    const measured = run.screens.flatMap(({ name }) =>
      measures.flatMap((what) => {
        // The strictest of those that hold.
        const allowed = own
          .filter(({ screens }) => screens === undefined || screens.includes(name))
          .flatMap((limit) => limit[what] ?? []);
        const most = Math.min(...allowed);
        const value = reader.value(path, name, what);
        return value !== undefined && value > most
          ? [{ page: path, screen: name, what, value, most, ...reader.cure(path, name, what, value - most) }]
          : [];
      }),
    );
    const counted = [...new Set(own.flatMap(({ checks = {} }) => Object.keys(checks)))]
      .sort()
      .flatMap((check) => {
        const most = Math.min(...own.flatMap(({ checks }) => checks?.[check] ?? []));
        const value = reader.count(path, check);
        return value > most
          ? [
              {
                page: path,
                screen: null,
                what: check,
                value,
                most,
                ...reader.cureCheck(path, check, value - most),
              },
            ]
          : [];
      });
    return [...measured, ...counted];
  });
}

/** Those that an earlier run did not have, or had by less. */
export function newBreaches(now: readonly Breach[], before: readonly Breach[], noiseBytes: number): Breach[] {
  const known = new Map(before.map((each) => [keyOf(each), each.value]));
  return now.filter((each) => {
    const then = known.get(keyOf(each));
    const noise = each.what === 'shift' ? 0.01 : each.screen === null ? 0 : noiseBytes;
    return then === undefined || each.value > then + noise;
  });
}

const keyOf = ({ page, screen, what }: Breach) => JSON.stringify([page, screen, what]);

/** What pages of one run weigh and do, and what each fix takes off. */
class LimitReader {
  constructor(readonly run: Readonly<Run>) {}

  value(page: string, screen: string, what: Measure): number | undefined {
    const visit = this.run.pages
      .find(({ path }) => path === page)
      ?.visits.find((each) => each.screen === screen);
    if (!visit || visit.state === 'unseen' || visit.state === 'redirected') return undefined;
    if (what === 'firstView' || what === 'whole') return visit[what].bytes;
    if (what === 'shift') return visit.shift.score;
    const entries = this.run.ledger.filter((entry) => entry.page === page && entry.screen === screen);
    return entries.reduce(
      (sum, { expected, expectedRemains }) =>
        sum + (what === 'expected' ? expected : expected - expectedRemains),
      0,
    );
  }

  count(page: string, check: string): number {
    return this.#findings(page, check).length;
  }

  #findings(page: string, check: string): number[] {
    return this.run.findings.flatMap((finding, index) =>
      (check === '*' || finding.check === check) && pageOf(finding.placement) === page ? [index] : [],
    );
  }

  cure(page: string, screen: string, what: Measure, over: number): Pick<Breach, 'fixes' | 'cured'> {
    return this.#gather(over, (id) => this.#takesOff(id, page, screen, what));
  }

  cureCheck(page: string, check: string, over: number): Pick<Breach, 'fixes' | 'cured'> {
    const own = new Set(this.#findings(page, check));
    const ids = new Map(this.run.fixes.map((fix) => [fix.id, fix]));
    return this.#gather(over, (id) => {
      const fix = ids.get(id);
      return fix?.kind === 'edit' ? fix.findings.filter((index) => own.has(index)).length : 0;
    });
  }

  /** Fixes from the top of the list that take something off, until enough is off. */
  #gather(over: number, takesOff: (fix: string) => number): Pick<Breach, 'fixes' | 'cured'> {
    const fixes: string[] = [];
    let off = 0;
    for (const { id } of this.run.fixes) {
      if (off >= over) break;
      const own = takesOff(id);
      if (own <= 0) continue;
      fixes.push(id);
      off += own;
    }
    return { fixes, cured: off >= over };
  }

  #takesOff(fix: string, page: string, screen: string, what: Measure): number {
    if (what === 'shift') return this.#shiftOff(fix, page, screen);
    const visit = this.run.pages
      .find(({ path }) => path === page)
      ?.visits.find((each) => each.screen === screen);
    const inFirstView = new Set(
      visit?.downloads.filter(({ began }) => began === 'first-view').map(({ url }) => url),
    );
    let off = 0;
    for (const { page: own, screen: shown, url, cuts } of this.run.ledger) {
      if (own !== page || shown !== screen || (what === 'firstView' && !inFirstView.has(url))) continue;
      for (const cut of cuts)
        if (cut.fix === fix) off += what === 'expected' || what === 'saved' ? cut.expected : cut.bytes;
    }
    return off;
  }

  /** What the images that a fix is for move when they come, as the checks saw it on this screen. */
  #shiftOff(fix: string, page: string, screen: string): number {
    const own = this.run.fixes.find(({ id }) => id === fix);
    if (!own || own.shift <= 0) return 0;
    const byPlacement = new Map<string, number>();
    for (const index of own.findings) {
      const { placement = '', screens = {} } = this.run.findings[index] ?? {};
      const shift = screens[screen]?.['shift'];
      if (pageOf(placement) === page && typeof shift === 'number')
        byPlacement.set(placement, Math.max(byPlacement.get(placement) ?? 0, shift));
    }
    return [...byPlacement.values()].reduce((sum, each) => sum + each, 0);
  }
}

const pageOf = (placement: string) => placement.slice(0, placement.lastIndexOf('#'));
