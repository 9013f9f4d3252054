import { groupBy } from '../../core/grouping.js';
import { paintedSize } from '../../core/layout/largest-paint.js';
import { isAwaitedInView } from '../../core/likeness/waiting-look.js';
import type { Download, ImageFile, Screen, Slot, WaitingLook } from '../../core/run/index.js';
import type { SizedImage } from '../../core/templates/box-rules.js';
import type { OutlinedImage } from '../../core/templates/outline.js';
import { LargestPaintRule } from '../../core/templates/largest-paint-rule.js';
import { LazyStart } from '../../core/templates/lazy-start.js';
import { TopModel, type Above } from '../../core/templates/top-model.js';
import { trafficOf, type VisitSummary } from '../visit-summary.js';
import type { ObservedElement } from '../observed-elements.js';
import { isLazy } from '../offered-images.js';
import { pickIn, sizedBy, type ElementPick } from './element-pick.js';
import { ElementRules } from './element-rules.js';
import type { PageFile } from './page-file.js';
import {
  byStart,
  moments,
  NotReadable,
  sameOnAll,
  sampleOf,
  startsOf,
  summedHeights,
  type FileKnowledge,
  type Moment,
  type Sample,
  type SeenElement,
  type SeenLook,
} from './samples.js';

/** Reads what a visit would see on one screen, by what visits of other pages of the template saw there. */
export class ScreenReader {
  readonly #samples: Sample[];
  readonly #rules: ElementRules[];
  readonly #height: TopModel;
  readonly #lazy: LazyStart;
  readonly #largest: LargestPaintRule;

  /** @throws {NotReadable} when pages of the template cannot be read */
  constructor(
    readonly screen: Screen,
    seen: readonly SeenLook[],
    readonly files: FileKnowledge,
  ) {
    this.#samples = seen.map((look) => sampleOf(look, screen, files));
    sameOnAll(this.#samples);
    const count = this.#samples[0]?.elements.length ?? 0;
    this.#rules = Array.from({ length: count }, (_, index) => new ElementRules(index, this.#samples, screen));
    this.#height = TopModel.learn(
      this.#samples.map((sample) => ({
        above: aboveEnd(sample.page, sample.heights.slot.at(-1)),
        top: sample.summary.visit.documentHeight,
      })),
    );
    this.#lazy = new LazyStart(this.#samples.flatMap(({ elements }) => startsOf(elements)));
    this.#largest = LargestPaintRule.learn(
      this.#samples.map(({ elements }) => ({
        areas: elements.map(({ observed, sized }) => this.#painted(observed, observed.beforeScroll, sized)),
        largest: elements.findIndex(({ observed }) => observed.largestPaint),
      })),
    );
    if (!this.#largest.holds)
      throw new NotReadable(`on ${screen.name} the largest paint is not the largest image in view`);
  }

  /**
   * What a visit of the page would see.
   * @throws {NotReadable} when only a visit can tell
   */
  read(page: PageFile): VisitSummary {
    const elements = this.#readElements(page);
    const near = this.#nearest(elements);
    const downloads = this.#downloads(elements, near);
    const traffic = trafficOf(downloads);
    const { visit } = near.summary;
    const others = visit.allBytes - visit.whole.bytes;
    const largest = elements.find(({ observed }) => observed.largestPaint)?.observed.selector;
    return {
      ...near.summary,
      baseUrl: page.baseUrl,
      observed: [...elements.map(({ observed }) => observed), ...near.styled],
      released: new Map(),
      matched: new Map(),
      visit: {
        ...visit,
        ...traffic,
        allBytes: traffic.whole.bytes + others,
        documentHeight: Math.round(
          this.#height.topOf(
            aboveEnd(page, summedHeights(elements.map(({ observed }) => observed)).slot.at(-1)),
          ),
        ),
        largestPaint: largest ?? visit.largestPaint,
        shift: this.#shift(elements, near),
        downloads,
      },
    };
  }

  #readElements(page: PageFile): ReadElement[] {
    const above: Record<Moment, number> = { whileWaiting: 0, beforeScroll: 0, slot: 0 };
    const elements = page.outline.images.map((outlined, index): ReadElement => {
      const rules = this.#rules[index];
      const first = this.#samples[0]?.elements[index];
      if (!rules || !first) throw new NotReadable('it has other images than its template');
      const pick = pickIn(outlined, {
        screen: this.screen,
        baseUrl: page.baseUrl,
        urls: this.files.urls,
        ...(first.observed.slot ? { autoWidth: first.observed.slot.width } : {}),
      });
      const sized = sizedBy(pick, this.#fileOf(pick));
      const boxes = rules.boxesOn(page, sized, above);
      for (const moment of moments) above[moment] += boxes[moment]?.height ?? 0;
      rules.checkCertain(outlined, boxes);
      const like = this.#likeAt(index, boxes.slot?.y);
      const observed = {
        ...observedLike(like, outlined, pick, boxes, this.files),
        waitingLook: this.#waitingLook(index, like, boxes.whileWaiting),
      };
      return { outlined, pick, sized, like, observed };
    });
    const areas = elements.map(({ observed, sized }) =>
      this.#painted(observed, observed.beforeScroll, sized),
    );
    const { largest, perhaps } = this.#largest.largestOf(areas);
    const unclear = perhaps === undefined ? undefined : elements[perhaps];
    // That of an image which loads at once has no consequence that would be told.
    if (unclear && isLazy(unclear.outlined))
      throw new NotReadable(`whether a lazy image is the largest paint on ${this.screen.name} is not clear`);
    return elements.map((element, index) => ({
      ...element,
      observed: { ...element.observed, largestPaint: index === largest },
    }));
  }

  /** The facts of the file that an image takes. */
  #fileOf({ url }: ElementPick): ImageFile | undefined {
    if (url === null) return undefined;
    if (!url.startsWith('/')) throw new NotReadable('an image that is no file of the site');
    const file = this.files.fileOf(url);
    if (!file || file.problem !== undefined)
      throw new NotReadable('a file that is missing or does not decode');
    return file;
  }

  /** What stands in the place of an image while it is awaited; nothing where it is out of view. */
  #waitingLook(index: number, like: SeenElement, slot: Slot | null): WaitingLook | null {
    if (!slot || !isAwaitedInView(this.screen, slot)) return null;
    if (like.observed.waitingLook !== null) return like.observed.waitingLook;
    const seen = this.#samples.flatMap(({ elements }) => elements[index]?.observed.waitingLook ?? []);
    return seen[0] ?? null;
  }

  /** The same element of the page on which it lies nearest to where it lies here. */
  #likeAt(index: number, y: number | undefined): SeenElement {
    const all = this.#samples.flatMap(({ elements }) => elements[index] ?? []);
    const distance = ({ observed: { slot } }: SeenElement) => Math.abs((slot?.y ?? 0) - (y ?? 0));
    return all.reduce((a, b) => (distance(b) < distance(a) ? b : a));
  }

  /** The page whose first view is laid out most alike. */
  #nearest(elements: readonly ReadElement[]): Sample {
    const distance = (sample: Sample) =>
      elements.reduce((sum, { observed: { beforeScroll } }, index) => {
        const other = sample.elements[index]?.observed.beforeScroll;
        const inView = beforeScroll && beforeScroll.y < this.screen.height;
        return inView && other
          ? sum + Math.abs(other.y - beforeScroll.y) + Math.abs(other.height - beforeScroll.height)
          : sum;
      }, 0);
    const ranked = this.#samples.map((sample) => ({ sample, away: distance(sample) }));
    return ranked.reduce((a, b) => (b.away < a.away ? b : a)).sample;
  }

  #painted(
    { seen, concealed, complete }: ObservedElement,
    box: Slot | null,
    { natural }: SizedImage,
  ): number {
    if (!seen || concealed || !complete || !natural) return 0;
    const { width, height } = this.screen;
    return paintedSize(
      { box, naturalWidth: natural.width, naturalHeight: natural.height },
      { x: 0, y: 0, width, height },
    );
  }

  #downloads(elements: readonly ReadElement[], near: Sample): Download[] {
    const found: Download[] = near.rest.map((each) => ({ ...each }));
    for (const { outlined, pick, like, observed } of elements) {
      const start = isLazy(outlined) && observed.slot ? this.#lazy.startAt(observed.slot.y) : like.began;
      if (pick.url === null || !like.began || !start) continue;
      const transfer = this.files.transferOf(pick.url);
      if (!transfer) throw new NotReadable(`what ${pick.url} weighs on the wire was not seen yet`);
      found.push({ url: pick.url, ...transfer, began: start.began, scrollDepth: start.scrollDepth });
    }
    return [...groupBy(found, ({ url }) => url).values()]
      .flatMap((same) => [...same].sort(byStart).slice(0, 1))
      .sort((a, b) => (a.url < b.url ? -1 : 1));
  }

  #shift(elements: readonly ReadElement[], near: Sample): VisitSummary['visit']['shift'] {
    const { shift } = near.summary.visit;
    const releases = shift.releases.map((release) => {
      const indexes = near.elements.flatMap(({ pick }, index) =>
        release.url !== null && pick.url === release.url ? [index] : [],
      );
      const own = indexes.flatMap((index) => elements[index] ?? []);
      if (own.length === 0) return release;
      return {
        ...release,
        url: own[0]?.pick.url ?? release.url,
        selectors: own.map(({ observed }) => observed.selector),
      };
    });
    return { ...shift, releases };
  }
}

interface ReadElement extends Omit<SeenElement, 'began'> {
  like: SeenElement;
}

function observedLike(
  { observed: like, pick: { url: likeUrl } }: SeenElement,
  outlined: OutlinedImage,
  { url }: ElementPick,
  boxes: Record<Moment, Slot | null>,
  { urls, fileOf }: FileKnowledge,
): ObservedElement {
  const address = url === null ? '' : new URL(url, urls.origin).href;
  const file = url === null ? undefined : fileOf(url);
  const isShown = like.currentSrc !== '' && likeUrl !== null;
  return {
    ...like,
    node: outlined.selector,
    selector: outlined.selector,
    attributes: outlined.attributes,
    sources: outlined.sources,
    chain: outlined.chain,
    markup: '',
    ...boxes,
    currentSrc: isShown ? address : like.currentSrc,
    naturalWidth: like.naturalWidth > 0 ? (file?.width ?? 0) : like.naturalWidth,
    naturalHeight: like.naturalHeight > 0 ? (file?.height ?? 0) : like.naturalHeight,
  };
}

const aboveEnd = ({ text }: PageFile, images = 0): Above => ({ text, blocks: text.blocks.length, images });
