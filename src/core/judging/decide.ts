import type { CutKind } from '../bytes/cuts.js';
import type { ImageState } from '../plan/image-state.js';
import { remainsOf, sumOf, type PageScreen } from '../plan/page-ledger.js';
import type { Taken } from '../plan/taken.js';
import { unitOf } from '../plan/units.js';
import type { Placement, TrifleCount } from '../run/types.js';
import type { Facts } from './facts.js';
import { Clusters } from './clusters.js';

/** What a placement would offer if a change were made. */
export interface Trial {
  placement: Placement;
  state: ImageState;
}

/** What a cluster of changes does to one page on one screen. Bytes. */
interface PageEffect {
  saves: number;
  /** Less what the estimates may be off by. */
  sure: number;
  /** Of the files that are taken before. */
  of: number;
}

interface Verdict {
  /** Ids of the placements whose changes are made. */
  made: ReadonlySet<string>;
  /** Ids of those that save, but not enough to be worth a reader's time. */
  trifles: ReadonlySet<string>;
}

/**
 * Decides which of the changes of one kind are made. Changes that hang together are decided together: those that show one download on a
 * page, since it goes away only when all of them change, and equal texts, since one template writes them. What saves nothing is not
 * made; of what saves, trifles are left out, judged by what is edited at once and by page: forty small savings are no trifle.
 */
export function decide(
  cut: CutKind,
  trials: readonly Trial[],
  facts: Facts,
  pages: ReadonlyMap<string, readonly PageScreen[]>,
): Verdict {
  const states = new Map(trials.map(({ placement, state }) => [placement.id, state]));
  const clusters = clustersOf(trials, facts).map((members) => ({
    members,
    effects: effectsOf(cut, members, states, facts, pages),
  }));
  const saving = clusters.filter(({ effects }) => netOf(effects, facts) > 0);
  const worthwhile = worthwhileUnits(cut, saving, facts);
  const made = new Set<string>();
  const trifles = new Set<string>();
  for (const { members } of saving) {
    const keep = members.some((member) => worthwhile.has(unitOf(member, facts.plan)));
    for (const { id } of members) (keep ? made : trifles).add(id);
  }
  return { made, trifles };
}

interface Effects {
  page: PageScreen;
  effect: PageEffect;
}

function clustersOf(trials: readonly Trial[], { screens, plan }: Facts): Placement[][] {
  const clusters = new Clusters<Placement>();
  const first = new Map<string, Placement>();
  const join = (key: string, placement: Placement) => {
    const other = first.get(key);
    if (other) clusters.join(other, placement);
    else first.set(key, placement);
  };
  for (const { placement } of trials) {
    clusters.add(placement);
    join(JSON.stringify(['text', unitOf(placement, plan), placement.markup]), placement);
    // A page that stands in frames of others is edited once for all of them.
    if (placement.source && placement.kind !== 'css-image')
      join(JSON.stringify(['place', placement.source]), placement);
    for (const { name } of screens) {
      const url = plan.taken(placement, name)?.file.url;
      if (url !== undefined) join(JSON.stringify(['file', placement.page, name, url]), placement);
    }
  }
  return clusters.list();
}

function effectsOf(
  cut: CutKind,
  members: readonly Placement[],
  states: ReadonlyMap<string, ImageState>,
  { plan, reach }: Facts,
  pages: ReadonlyMap<string, readonly PageScreen[]>,
): Effects[] {
  const inside = new Set(members.map(({ id }) => id));
  const touched = [...new Set(members.map(({ page }) => page))].flatMap((page) => pages.get(page) ?? []);
  return touched.map((page) => {
    const screen = page.screen.name;
    const leaders = new Map(
      page.placements.flatMap(({ placement }) =>
        inside.has(placement.id) ? [[plan.taken(placement, screen)?.file.url, placement] as const] : [],
      ),
    );
    const then = (placement: Placement): Taken | undefined => {
      if (inside.has(placement.id)) return plan.takenWith(placement, states.get(placement.id), screen);
      const now = plan.taken(placement, screen);
      // A preload is going to ask for what its image takes.
      const leader = placement.kind === 'preload' && now ? leaders.get(now.file.url) : undefined;
      return leader ? then(leader) : now;
    };
    const before = sumOf(remainsOf(page, (placement) => plan.taken(placement, screen), reach));
    const after = sumOf(remainsOf(page, then, reach));
    const saves = cut === 'later' ? before.expected - after.expected : before.whole - after.whole;
    const own = page.placements.filter(({ placement }) => inside.has(placement.id));
    const taken = new Map<string, number>();
    const doubt = new Map<string, number>();
    for (const { placement } of own) {
      const [old, now] = [plan.taken(placement, screen), then(placement)];
      if (old) taken.set(old.file.url, old.bytes);
      if (now) doubt.set(now.file.url, now.bytes * now.file.error);
    }
    const sum = (values: Iterable<number>) => [...values].reduce((total, value) => total + value, 0);
    return { page, effect: { saves, sure: saves - sum(doubt.values()), of: sum(taken.values()) } };
  });
}

/** Weighted as visits are; pages that nobody visits still count a little. */
function netOf(effects: readonly Effects[], { screens }: Facts): number {
  const share = 1 / Math.max(1, screens.length);
  return effects.reduce(
    (sum, { page, effect }) => sum + effect.saves * (page.pageWeight * page.screen.share + 1e-6 * share),
    0,
  );
}

/** Units that save more than a trifle on some page and screen, on the pessimistic side of their estimates. */
function worthwhileUnits(
  cut: CutKind,
  clusters: readonly { members: readonly Placement[]; effects: readonly Effects[] }[],
  { plan, wishes: { trifles } }: Facts,
): Set<string> {
  const sums = new Map<string, { unit: string; sure: number; of: number }>();
  for (const { members, effects } of clusters)
    for (const unit of new Set(members.map((member) => unitOf(member, plan))))
      for (const { page, effect } of effects) {
        const key = JSON.stringify([unit, page.page, page.screen.name]);
        const sum = sums.get(key) ?? { unit, sure: 0, of: 0 };
        sums.set(key, { unit, sure: sum.sure + effect.sure, of: sum.of + effect.of });
      }
  // Taking metadata out costs no looks, and every smaller copy would carry it along: no share is too small.
  const share = cut === 'metadata' ? 0 : trifles.trifleShare;
  const enough = [...sums.values()].filter(
    ({ sure, of }) => sure >= trifles.trifleBytes && sure >= of * share,
  );
  return new Set(enough.map(({ unit }) => unit));
}

/** Counts what was left out as trifles: findings, and the bytes that each could save at most. */
export function countTrifles(
  trials: readonly Trial[],
  { trifles }: Verdict,
  facts: Facts,
  count: TrifleCount,
): void {
  const counted = new Set<string>();
  for (const { placement, state } of trials) {
    if (!trifles.has(placement.id)) continue;
    count.findings++;
    const savings = facts.screens.map(({ name }) => {
      const before = facts.plan.taken(placement, name);
      const key = JSON.stringify([placement.page, name, before?.file.url]);
      if (!before || counted.has(key)) return 0;
      counted.add(key);
      return before.bytes - (facts.plan.takenWith(placement, state, name)?.bytes ?? 0);
    });
    count.bytes += Math.round(Math.max(0, ...savings));
  }
}
