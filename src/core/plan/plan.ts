import type { ImageHosts } from './image-host.js';
import type { PriceList } from '../bytes/price-list.js';
import { cutOrder, type CutKind } from '../bytes/cuts.js';
import { sharpDensity, type Sharpness } from '../layout/sharpness.js';
import { viewOf } from '../layout/view-of.js';
import type { ReachCurve } from '../layout/reach.js';
import type { ImageFile, PageRecord, Placement, Screen, SlotSweep } from '../run/types.js';
import { FileBook, type PlannedFile } from './file-book.js';
import { makingOf } from './making.js';
import type { ImageState } from './image-state.js';
import { proposeCandidates, withLadder, type CandidateProposal } from './proposal.js';
import { startState } from './start-state.js';
import { takenBy, wouldWait, type Taken } from './taken.js';
import { readText, type ReadText } from './pick-text.js';
import { isConditionInRule } from './style-rule.js';
import { Recent } from './recent.js';
import { provisional, writeState } from './write-state.js';

/** Everything a plan is made from. */
export interface PlanInput {
  screens: readonly Screen[];
  pages: readonly PageRecord[];
  placements: readonly Placement[];
  /** By address. */
  files: ReadonlyMap<string, ImageFile>;
  /** By placement id. */
  sweeps: ReadonlyMap<string, SlotSweep>;
  prices: PriceList;
  reach: ReachCurve;
  /**
   * How far below the viewport the browser begins to load lazy images, CSS px: nearer ones are fetched in the first view whether lazy
   * or not.
   */
  lazyDistance: number;
  /** Paths of all files of the site. */
  names: ReadonlySet<string>;
  /** Other files that show the same picture as one, by its address. */
  twins: ReadonlyMap<string, readonly string[]>;
  keepCredits: boolean;
  /** Hosts that give pictures in any width by their addresses; none if left out. */
  hosts?: ImageHosts;
  sharpness: Sharpness;
}

/** CSS px that a placement lies higher on a screen until the images above it have come. */
export type GrowthOf = (placement: Placement, screen: string) => number;

/** The stages of a plan: the page as it is, then each kind of cut. */
export const asItIs: number = 0;
export const stageOf = (kind: CutKind): number => cutOrder.indexOf(kind) + 1;
export const lastStage: number = cutOrder.length;

/** So many texts of images are kept parsed: each is asked for all screens in a row, and takes more room than what was seen of it. */
const mostTexts = 1000;

/** What the site's images offer, as they are and with the changes made so far. */
export class Plan {
  readonly book: FileBook;
  readonly #history = new Map<string, (ImageState | undefined)[]>();
  readonly #texts = new Recent<ImageState, ReadText>(mostTexts);
  /** By screen; null where nothing is taken. */
  readonly #taken = new WeakMap<ImageState, Record<string, Taken | null>>();
  readonly #proposals = new Map<string, ReadonlyMap<number, CandidateProposal>>();

  #growthAbove: GrowthOf = () => 0;
  /** What images that are not lazy fetch, by page, screen and address. */
  readonly #eager = new Set<string>();

  constructor(readonly input: PlanInput) {
    this.book = new FileBook(input);
    for (const { kind, page, downloads, shown } of input.placements)
      for (const [screen, { url }] of Object.entries(downloads))
        if (kind !== 'preload' && !shown[screen]?.lazy) this.#eager.add(JSON.stringify([page, screen, url]));
    const edited = onePerRule(input.placements);
    for (const placement of input.placements) {
      const state = edited(placement) ? startState(placement, input.screens, this.book) : undefined;
      this.#history.set(placement.id, [state]);
    }
  }

  /** What a placement offers after a stage, or now; undefined where its text does not explain what the browser took. */
  stateOf({ id }: Pick<Placement, 'id'>, stage = lastStage): ImageState | undefined {
    const history = this.#history.get(id) ?? [];
    return history.slice(0, stage + 1).findLast((state) => state !== undefined);
  }

  /** Whether the plan changes a placement, at a stage or at all. */
  isChanged({ id }: Pick<Placement, 'id'>, stage?: number): boolean {
    const history = this.#history.get(id) ?? [];
    return stage === undefined ? history.slice(1).some(Boolean) : stage > 0 && history[stage] !== undefined;
  }

  change({ id }: Pick<Placement, 'id'>, stage: number, state: ImageState): void {
    const history = this.#history.get(id) ?? [];
    history[stage] = state;
    this.#history.set(id, history);
  }

  /** Says how far images still push down what stands below them once they come; nothing moves until then. */
  heedGrowth(growthAbove: GrowthOf): void {
    this.#growthAbove = growthAbove;
  }

  /** Whether a placement would wait for a scroll if it were lazy: browsers look at where it lies before images above it have come. */
  wouldWait(placement: Placement, screen: string): boolean {
    return wouldWait(
      placement,
      this.#screen(screen),
      this.#growthAbove(placement, screen),
      this.input.lazyDistance,
    );
  }

  /** Leaves a placement as it is, whatever was changed. */
  takeBack({ id }: Pick<Placement, 'id'>): void {
    this.#history.set(id, (this.#history.get(id) ?? []).slice(0, 1));
  }

  /** What a screen takes for a placement after a stage, or now. */
  taken(placement: Placement, screen: string, stage = lastStage): Taken | undefined {
    return this.takenWith(placement, this.stateOf(placement, stage), screen);
  }

  /** What a screen would take if the placement offered something else. */
  takenWith(placement: Placement, state: ImageState | undefined, screen: string): Taken | undefined {
    if (!state)
      return takenBy({ placement, screen: this.#screen(screen), input: this.input, book: this.book });
    const known = this.#taken.get(state) ?? {};
    this.#taken.set(state, known);
    known[screen] ??=
      takenBy({
        placement,
        screen: this.#screen(screen),
        input: this.input,
        book: this.book,
        pick: this.#read(state),
        lazyBefore: placement.shown[screen]?.lazy ?? false,
        growthAbove: this.#growthAbove(placement, screen),
        hurried: this.#eager.has(JSON.stringify([placement.page, screen, placement.downloads[screen]?.url])),
      }) ?? null;
    return known[screen] ?? undefined;
  }

  /** The file that a screen which was not visited would take; undefined where that is not known. */
  fileOn(
    placement: Placement,
    screen: Screen,
    slotWidth: number | undefined,
    stage = lastStage,
  ): PlannedFile | undefined {
    const state = this.stateOf(placement, stage);
    const pick = state && this.#read(state)(screen, slotWidth);
    return pick && this.book.at(pick.url);
  }

  /** The file that a state gives to a screen by its own viewport, whatever frame the placement stands in. */
  fileByScreen(state: ImageState, screen: Screen): PlannedFile | undefined {
    const pick = this.#read(state)(screen, undefined);
    return pick && this.book.at(pick.url);
  }

  /** What each source that is taken should offer. Computed from the text as it is. */
  proposals(placement: Placement): ReadonlyMap<number, CandidateProposal> {
    const known = this.#proposals.get(placement.id);
    if (known) return known;
    const state = this.stateOf(placement, asItIs);
    const { screens, files, sweeps } = this.input;
    const taken = new Map(
      screens.flatMap(({ name }) => {
        const source = this.taken(placement, name, asItIs)?.source;
        return source === undefined ? [] : [[name, source] as const];
      }),
    );
    const wide = state
      ? proposeCandidates({
          placement,
          state,
          taken,
          screens: screens.map((screen) => ({
            ...viewOf(placement, screen),
            density: sharpDensity(screen, this.input.sharpness),
          })),
          files,
          sweep: sweeps.get(placement.id),
        })
      : new Map<number, CandidateProposal>();
    const proposals = new Map([...wide].map(([source, each]) => [source, this.#narrow(each)]));
    this.#proposals.set(placement.id, proposals);
    return proposals;
  }

  /** Once the bytes of a picture are known, only the widths that are worth offering stay. */
  #narrow(proposal: CandidateProposal): CandidateProposal {
    const { prices, screens } = this.input;
    const { url, bytes } = makingOf(proposal).from;
    if (!prices.has(url)) return proposal;
    return withLadder(proposal, screens, (width) => prices.lightest(url, width) ?? bytes);
  }

  /** Whether two states are written alike, so that pasting one for the other changes nothing. */
  isSameText(one: ImageState, other: ImageState): boolean {
    return writeState(one, provisional) === writeState(other, provisional);
  }

  #read(state: ImageState): ReadText {
    return this.#texts.remember(state, () =>
      readText(writeState(state, provisional), state.form, state.base),
    );
  }

  #screen(name: string): Screen {
    const screen = this.input.screens.find((each) => each.name === name);
    if (!screen) throw new RangeError(`There is no screen "${name}".`);
    return screen;
  }
}

/** Of several images in one rule only the heaviest is edited: two texts for one rule would undo each other. */
function onePerRule(placements: readonly Placement[]): (placement: Placement) => boolean {
  const keyOf = (placement: Placement) => {
    const { markup, source } = ruleAround(placement, placements) ?? placement;
    // Of one rule each declaration has a place of its own; rules of one text are edited alike.
    return JSON.stringify([markup, source?.file]);
  };
  const layerOf = ({ markup, style }: Placement) =>
    `${isConditionInRule(markup) ? markup : ''} ${style?.property ?? ''} ${style?.layer ?? 0}`;
  const weights = new Map<string, Map<string, number>>();
  for (const placement of placements) {
    if (placement.kind !== 'css-image') continue;
    const layers = weights.get(keyOf(placement)) ?? new Map<string, number>();
    const bytes = Math.max(0, ...Object.values(placement.downloads).map((download) => download.bytes));
    layers.set(layerOf(placement), Math.max(layers.get(layerOf(placement)) ?? 0, bytes));
    weights.set(keyOf(placement), layers);
  }
  return (placement) => {
    const layers = weights.get(keyOf(placement));
    if (placement.kind !== 'css-image' || !layers) return true;
    const [heaviest] = [...layers].sort(([a, x], [b, y]) => y - x || (a < b ? -1 : 1));
    return heaviest?.[0] === layerOf(placement);
  };
}

/** One that shows an image by the rule in which a condition stands. */
function ruleAround({ markup, source }: Placement, placements: readonly Placement[]): Placement | undefined {
  if (!isConditionInRule(markup)) return undefined;
  return placements.find(
    (each) =>
      each.kind === 'css-image' &&
      each.source?.file === source?.file &&
      each.markup.length > markup.length &&
      each.markup.includes(markup),
  );
}
