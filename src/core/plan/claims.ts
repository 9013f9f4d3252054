import { cutOrder } from '../bytes/cuts.js';
import { groupBy } from '../grouping.js';
import type { LedgerCut, LedgerEntry, Placement, Savings } from '../run/types.js';
import { noBytes, pageScreens, remainsOf, type PageScreen, type Remains } from './page-ledger.js';
import { asItIs, lastStage, type Plan } from './plan.js';

/** One fix as the claims see it: placements whose texts are edited together. */
export interface Candidate {
  id: string;
  placements: readonly Placement[];
  /** What decides between fixes that save alike: the layout shift and the visits that they touch, and their place in the list. */
  rank: readonly number[];
}

export interface Claimed {
  id: string;
  /** What it adds to the fixes above it. */
  share: Savings;
  /** What it saves by itself. */
  alone: Savings;
  /** Expected bytes by kind of cut, in their order; none that is nothing. */
  steps: { kind: string; expected: number }[];
}

export interface Claims {
  /** In the order in which the list is read. */
  fixes: Claimed[];
  ledger: LedgerEntry[];
}

/** Expected bytes and the two bounds, exactly, before they are rounded. */
interface Sums {
  expected: number;
  firstView: number;
  whole: number;
  unsure: number;
  screens: Map<string, number>;
}

/** Where each placement stands: how many stages of its fix are made. */
type Standing = ReadonlyMap<string, number>;

/** Reads what fixes save off the pages: every number is the bytes before less the bytes after. */
export class ClaimReader {
  readonly #screens: readonly PageScreen[];
  /** Positions in `#screens` by page. */
  readonly #byPage: ReadonlyMap<string, number[]>;
  readonly #standing = new Map<string, number>();
  readonly #now: Remains[][];

  constructor(readonly plan: Plan) {
    this.#screens = pageScreens(plan.input);
    this.#byPage = groupBy(this.#screens.keys(), (index) => this.#screens[index]?.page ?? '');
    this.#now = this.#screens.map((each) => this.#remains(each, this.#standing));
  }

  /**
   * Orders fixes so that each stands where it adds most to those above it, and shares every download out among them. Fixes of which
   * each alone saves less than they do together are told by `joins`.
   */
  read(candidates: readonly Candidate[]): Claims {
    const cuts: LedgerCut[][][] = this.#screens.map(({ downloads }) => downloads.map(() => []));
    const before = this.#now.map((each) => each.map((left) => ({ ...left })));
    const open = new Map(candidates.map((each) => [each, this.#worth(each.placements, lastStage)]));
    const alone = new Map([...open].map(([each, worth]) => [each, this.#toSavings(worth)]));
    const neighbours = this.#neighbours(candidates);
    const fixes: Claimed[] = [];
    while (open.size > 0) {
      const [next] = [...open].reduce((best, each) => (byWorth(each, best) < 0 ? each : best));
      open.delete(next);
      const { steps, share } = this.#make(next, cuts);
      fixes.push({ id: next.id, share, steps, alone: alone.get(next) ?? share });
      for (const other of neighbours.get(next) ?? [])
        if (open.has(other)) open.set(other, this.#worth(other.placements, lastStage));
    }
    return { fixes, ledger: this.#ledger(before, cuts) };
  }

  /** Expected bytes that placements save when they alone, or with those made before, are changed. */
  worthOf(placements: readonly Placement[]): number {
    return this.#worth(placements, lastStage).expected;
  }

  /** Groups of candidates that show one download between them: what they save they may save only together. */
  sharing(candidates: readonly Candidate[]): Candidate[][] {
    const owner = new Map<string, Candidate>();
    for (const candidate of candidates) for (const { id } of candidate.placements) owner.set(id, candidate);
    const groups = new Map<string, Candidate[]>();
    for (const { placements, downloads } of this.#screens) {
      const sharers = downloads.map(() => new Set<Candidate>());
      for (const { placement, download } of placements) {
        const candidate = owner.get(placement.id);
        if (candidate) sharers[download]?.add(candidate);
      }
      for (const group of sharers)
        if (group.size > 1) {
          const sorted = [...group].sort((a, b) => (a.id < b.id ? -1 : 1));
          groups.set(sorted.map(({ id }) => id).join('\n'), sorted);
        }
    }
    return [...groups.values()];
  }

  #remains(page: PageScreen, standing: Standing, moved?: ReadonlySet<string>, stage = lastStage): Remains[] {
    return remainsOf(
      page,
      (placement, screen) => {
        const own = moved?.has(placement.id) ? stage : (standing.get(placement.id) ?? asItIs);
        return this.plan.taken(placement, screen, own);
      },
      this.plan.input.reach,
    );
  }

  #touched(placements: readonly Placement[]): number[] {
    return [...new Set(placements.map(({ page }) => page))].flatMap((page) => this.#byPage.get(page) ?? []);
  }

  #worth(placements: readonly Placement[], stage: number): Sums {
    const moved = new Set(placements.map(({ id }) => id));
    const sums = noSums();
    for (const index of this.#touched(placements)) {
      const page = this.#screens[index];
      const old = this.#now[index] ?? [];
      const now = page && this.#remains(page, this.#standing, moved, stage);
      if (!page || !now) continue;
      addTo(sums, page, old, now);
      sums.unsure += unsureOf(page, old, now);
    }
    return sums;
  }

  /** Makes a fix stage by stage, and notes what each takes off each download. */
  #make(fix: Candidate, cuts: LedgerCut[][][]): { steps: Claimed['steps']; share: Savings } {
    const moved = new Set(fix.placements.map(({ id }) => id));
    const whole = noSums();
    const start = new Map(this.#touched(fix.placements).map((index) => [index, this.#now[index] ?? []]));
    const steps: Claimed['steps'] = [];
    for (let stage = 1; stage <= lastStage; stage++) {
      const kind = cutOrder[stage - 1];
      if (kind === undefined || !fix.placements.some((each) => this.plan.isChanged(each, stage))) continue;
      const step = noSums();
      for (const index of this.#touched(fix.placements)) {
        const page = this.#screens[index];
        if (!page) continue;
        const [old, now] = [this.#now[index] ?? [], this.#remains(page, this.#standing, moved, stage)];
        addTo(step, page, old, now);
        addTo(whole, page, old, now);
        this.#now[index] = now;
        now.forEach((left, at) => {
          const bytes = (old[at]?.whole ?? 0) - left.whole;
          const expected = (old[at]?.expected ?? 0) - left.expected;
          if (bytes !== 0 || expected !== 0) cuts[index]?.[at]?.push({ kind, fix: fix.id, bytes, expected });
        });
      }
      for (const { id } of fix.placements) this.#standing.set(id, stage);
      steps.push({ kind, expected: Math.round(step.expected) });
    }
    for (const [index, old] of start) {
      const page = this.#screens[index];
      if (page) whole.unsure += unsureOf(page, old, this.#now[index] ?? []);
    }
    return { steps: steps.filter(({ expected }) => expected !== 0), share: this.#toSavings(whole) };
  }

  #toSavings({ expected, firstView, whole, unsure, screens }: Sums): Savings {
    const round = (value: number) => Math.round(value) || 0;
    return {
      expected: round(expected),
      firstView: round(firstView),
      whole: round(whole),
      unsure: round(unsure),
      screens: Object.fromEntries(
        this.plan.input.screens.map(({ name }) => [name, round(screens.get(name) ?? 0)]),
      ),
    };
  }

  /** Fixes whose worth may change when another is made: those that take or took one file with it on some page. */
  #neighbours(candidates: readonly Candidate[]): Map<Candidate, Candidate[]> {
    const users = new Map<string, Set<Candidate>>();
    const keys = new Map<Candidate, Set<string>>();
    const { screens } = this.plan.input;
    for (const candidate of candidates) {
      const own = new Set<string>();
      for (const placement of candidate.placements)
        for (const { name } of screens) {
          const urls = [
            placement.downloads[name]?.url,
            ...Array.from(
              { length: lastStage + 1 },
              (_, stage) => this.plan.taken(placement, name, stage)?.file.url,
            ),
          ];
          for (const url of urls) if (url !== undefined) own.add(JSON.stringify([placement.page, name, url]));
        }
      keys.set(candidate, own);
      for (const key of own) {
        const known = users.get(key);
        if (known) known.add(candidate);
        else users.set(key, new Set([candidate]));
      }
    }
    return new Map(
      candidates.map((candidate) => {
        const all = new Set([...(keys.get(candidate) ?? [])].flatMap((key) => [...(users.get(key) ?? [])]));
        all.delete(candidate);
        return [candidate, [...all]];
      }),
    );
  }

  #ledger(before: readonly Remains[][], cuts: readonly LedgerCut[][][]): LedgerEntry[] {
    return this.#screens.flatMap(({ page, screen, downloads, placements }, index) =>
      downloads.map(({ url, bytes }, at): LedgerEntry => {
        const left = this.#now[index]?.[at];
        return {
          page,
          screen: screen.name,
          url,
          placements: placements
            .filter(({ download }) => download === at)
            .map(({ placement }) => placement.id),
          delivered: bytes,
          cuts: cuts[index]?.[at] ?? [],
          remains: left?.whole ?? bytes,
          expected: before[index]?.[at]?.expected ?? 0,
          expectedRemains: left?.expected ?? 0,
        };
      }),
    );
  }
}

const noSums = (): Sums => ({ expected: 0, firstView: 0, whole: 0, unsure: 0, screens: new Map() });

/** How far the difference may be off: only what was changed counts. */
function unsureOf(
  { screen, pageWeight }: PageScreen,
  old: readonly Remains[],
  now: readonly Remains[],
): number {
  const each = old.map((left, index) => {
    const next = now[index] ?? noBytes;
    const same = left.expected === next.expected && left.whole === next.whole;
    return same ? 0 : left.unsure + next.unsure;
  });
  return pageWeight * screen.share * each.reduce((sum, bytes) => sum + bytes, 0);
}

function addTo(
  sums: Sums,
  { screen, pageWeight }: PageScreen,
  old: readonly Remains[],
  now: readonly Remains[],
): void {
  const weight = pageWeight * screen.share;
  let expected = 0;
  old.forEach((left, index) => {
    expected += left.expected - (now[index]?.expected ?? 0);
    sums.firstView += weight * (left.firstView - (now[index]?.firstView ?? 0));
    sums.whole += weight * (left.whole - (now[index]?.whole ?? 0));
  });
  sums.expected += weight * expected;
  sums.screens.set(screen.name, (sums.screens.get(screen.name) ?? 0) + pageWeight * expected);
}

/** Bytes first; of fixes that save none those that visitors feel most; ties as the candidates say. */
function byWorth([a, worth]: [Candidate, Sums], [b, other]: [Candidate, Sums]): number {
  const [mine, theirs] = [Math.max(0, Math.round(worth.expected)), Math.max(0, Math.round(other.expected))];
  if (mine !== theirs) return theirs - mine;
  const first = Math.max(0, Math.round(other.firstView)) - Math.max(0, Math.round(worth.firstView));
  if (mine > 0 && first !== 0) return first;
  for (const [index, value] of a.rank.entries()) {
    const difference = (b.rank[index] ?? 0) - value;
    if (difference !== 0) return difference;
  }
  return a.id < b.id ? -1 : 1;
}
