import { cutOrder, type CutKind } from '../bytes/cuts.js';
import { groupBy } from '../grouping.js';
import { applyChange, type Change } from '../plan/changes.js';
import type { ImageState } from '../plan/image-state.js';
import { pageScreens, type PageScreen } from '../plan/page-ledger.js';
import { asItIs, stageOf } from '../plan/plan.js';
import type { LeftOut, Placement, TrifleCount } from '../run/types.js';
import { isAskedOnce } from './asked-once.js';
import { checkInWords, type Case, type Check, type Outcomes, type Remedy } from './check.js';
import { companions } from './companions.js';
import { countTrifles, decide, type Trial } from './decide.js';
import { factsOf, type Facts, type World } from './facts.js';
import { followPreloads, type Following } from './follow.js';
import { GrowthAbove } from './growth-above.js';
import { looksKept } from './looks-kept.js';

/** A finding that policy has kept. */
export interface Kept {
  check: Check;
  found: Case;
  remedy: Remedy;
  /** Whether the plan holds what the check asks for; else it is to be done by hand. */
  planned: boolean;
  says: string;
  /** Bytes of one transfer on each screen, before and after; empty where nothing is planned. */
  bytes: Readonly<Record<string, { bytes: number; bytesAfter: number }>>;
}

export interface Judgement {
  kept: Kept[];
  trifles: TrifleCount;
  /** Findings that the user did not want to be told of. */
  leftOut: LeftOut[];
  /** Preloads that are to ask for what an image takes. */
  following: Following[];
  /** The facts with the plan as the last findings left it. */
  facts: Facts;
}

/**
 * Runs the checks and applies all policy in one place. They run in the order of the ledger, each on what those before left of the
 * images; what is not worth mentioning is set aside; what would change how a page looks is not made.
 */
export function judge(checks: readonly Check[], world: World): Judgement {
  const facts = factsOf(world);
  const judging = new Judging(facts);
  for (const check of checks) if (check.cut === null) judging.repair(check);
  const growth = new GrowthAbove(facts);
  facts.plan.heedGrowth((placement, screen) => growth.of(placement, screen));
  for (const cut of cutOrder)
    for (const check of checks)
      if (check.cut === cut)
        facts.faults.attempt(checkInWords(check.id), { page: '' }, () => judging.cut(check, cut));
  followPreloads(facts, judging.following);
  // Listed in the order of the checks, whatever the order in which they had to run.
  const rank = new Map(checks.map((check, index) => [check, index]));
  judging.kept.sort((a, b) => (rank.get(a.check) ?? 0) - (rank.get(b.check) ?? 0));
  const { kept, trifles, following, leftOut } = judging;
  return { kept, trifles, following, leftOut: sortLeftOut(leftOut), facts };
}

/** By placement and check: some are found in several rounds. */
function sortLeftOut(leftOut: readonly LeftOut[]): LeftOut[] {
  const byKey = new Map(leftOut.map((each) => [`${each.placement} ${each.check}`, each]));
  return [...byKey.entries()].sort(([a], [b]) => (a < b ? -1 : 1)).map(([, each]) => each);
}

class Judging {
  readonly kept: Kept[] = [];
  readonly trifles: TrifleCount = { findings: 0, bytes: 0 };
  readonly following: Following[] = [];
  readonly leftOut: LeftOut[] = [];
  readonly #pages: ReadonlyMap<string, PageScreen[]>;

  constructor(readonly facts: Facts) {
    this.#pages = groupBy(pageScreens(facts.plan.input), ({ page }) => page);
  }

  /** What costs no bytes by itself is mended whatever that does to the bytes. */
  repair(check: Check): void {
    for (const found of this.facts.framed.leftTo(check.examine(this.facts)))
      this.#guarded(check, found, () => {
        const remedy = this.#remedyOf(found);
        const state = this.#tried(found.placement, remedy.changes);
        const planned = state !== undefined || this.#isMade(found.placement, remedy.changes);
        const outcomes = this.#outcomes(found.placement, state);
        if (this.#isLeftOut(check, found, () => outcomes)) return;
        this.#keep({ check, found, remedy, planned }, outcomes);
        const trials = state ? this.#everywhere({ placement: found.placement, state }) : [];
        for (const each of trials) this.facts.plan.change(each.placement, stageOf('repair'), each.state);
      });
  }

  /** What costs bytes is mended as far as that saves some. */
  cut(check: Check, cut: CutKind): void {
    const { plan } = this.facts;
    const cases = this.facts.framed.leftTo(check.examine(this.facts)).flatMap(
      (found) =>
        this.#guarded(check, found, () => {
          const remedy = this.#remedyOf(found);
          const state = this.#tried(found.placement, remedy.changes);
          const isLeftOut = this.#isLeftOut(check, found, () => this.#outcomes(found.placement, state));
          return isLeftOut ? undefined : { found, remedy, state };
        }) ?? [],
    );
    const trials = cases.flatMap(({ found, state }): Trial[] =>
      state ? [{ placement: found.placement, state }] : [],
    );
    const shown = trials.flatMap((trial) => this.#everywhere(trial));
    const all = [...shown, ...companions(shown, this.facts)];
    const verdict = decide(cut, all, this.facts, this.#pages);
    countTrifles(trials, verdict, this.facts, this.trifles);
    const spoiled = new Set<string>();
    for (const { found, remedy, state } of cases) {
      const { placement } = found;
      const follows = remedy.follows !== undefined;
      // What nobody can paste is told all the same, and claims nothing.
      const planned = follows || (state !== undefined && verdict.made.has(placement.id));
      if (!planned && (state || remedy.notes.length === 0)) continue;
      const kept = this.#guarded(check, found, () => {
        this.#keep({ check, found, remedy, planned }, this.#outcomes(placement, state));
        return true;
      });
      if (!kept) for (const { id } of [placement, ...this.facts.framed.framedOf(placement)]) spoiled.add(id);
      else if (remedy.follows !== undefined)
        this.following.push({ preload: placement, image: remedy.follows, from: stageOf(cut) });
    }
    for (const { placement, state } of all)
      if (verdict.made.has(placement.id) && !spoiled.has(placement.id))
        plan.change(placement, stageOf(cut), state);
  }

  #remedyOf(found: Case): Remedy {
    return this.facts.protections.heed(found.placement, found.remedy());
  }

  #isLeftOut(check: Check, { placement }: Case, outcomes: () => Outcomes): boolean {
    const saves = () =>
      Math.max(
        0,
        ...Object.values(outcomes()).map(({ before, after }) => (before?.bytes ?? 0) - (after?.bytes ?? 0)),
      );
    const left = this.facts.exceptions?.find(check.id, placement, saves);
    if (left) this.leftOut.push(left);
    return left !== undefined && !left.expired;
  }

  /** A fault at one placement costs what one check says of it. */
  #guarded<Result>({ id }: Check, { placement }: Case, work: () => Result): Result | undefined {
    return this.facts.faults.attempt(checkInWords(id), placement, work);
  }

  #keep(kept: Omit<Kept, 'says' | 'bytes'>, outcomes: Outcomes): void {
    const changed = kept.planned && kept.check.cut !== null ? Object.entries(outcomes) : [];
    const bytes = changed.map(([screen, { before, after }]) => [
      screen,
      { bytes: Math.round(before?.bytes ?? 0), bytesAfter: Math.round(after?.bytes ?? 0) },
    ]);
    const { check, found, remedy, planned } = kept;
    this.kept.push({
      check,
      found,
      remedy,
      planned,
      says: found.words(outcomes),
      bytes: Object.fromEntries(bytes) as Kept['bytes'],
    });
  }

  /** The placement with changes made, as long as everything is known of it and it looks as before. */
  #tried(placement: Placement, changes: readonly Change[]): ImageState | undefined {
    const before = this.facts.plan.stateOf(placement);
    const state = before && this.#changed(placement, before, changes);
    if (!state) return undefined;
    const isKept = (trial: Trial) =>
      looksKept(trial.placement, trial.state, this.facts) &&
      isAskedOnce(trial.placement, trial.state, this.facts);
    return this.#everywhere({ placement, state }).every(isKept) ? state : undefined;
  }

  /** A state with changes made; undefined where they change nothing of its text. */
  #changed(placement: Placement, before: ImageState, changes: readonly Change[]): ImageState | undefined {
    if (changes.length === 0) return undefined;
    const { plan } = this.facts;
    const workshop = { book: plan.book, proposals: plan.proposals(placement) };
    let state: ImageState | undefined;
    for (const change of changes) state = applyChange(state ?? before, change, workshop) ?? state;
    return state && !plan.isSameText(before, state) ? state : undefined;
  }

  /** Whether what is to be done stands in the plan already, for what another check found at the same image. */
  #isMade(placement: Placement, changes: readonly Change[]): boolean {
    const { plan } = this.facts;
    const [original, now] = [plan.stateOf(placement, asItIs), plan.stateOf(placement)];
    if (!original || !now || !plan.isChanged(placement)) return false;
    // That other changes change nothing may mean as well that they cannot be made.
    return (
      changes.every(({ kind }) => kind === 'edit') &&
      this.#changed(placement, original, changes) !== undefined &&
      this.#changed(placement, now, changes) === undefined
    );
  }

  /** A change, and what it changes in frames. */
  #everywhere(trial: Trial): Trial[] {
    return [trial, ...this.facts.framed.alongWith(trial)];
  }

  #outcomes(placement: Placement, state: ImageState | undefined): Outcomes {
    const { plan, screens } = this.facts;
    return Object.fromEntries(
      screens.map(({ name }) => {
        const before = plan.taken(placement, name);
        return [name, { before, after: state ? plan.takenWith(placement, state, name) : before }];
      }),
    );
  }
}
