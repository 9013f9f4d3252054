import { enoughInView, shareInFirstView } from '../../core/layout/fold.js';
import { isAwaitedInView } from '../../core/likeness/waiting-look.js';
import type { Screen, Slot } from '../../core/run/index.js';
import { BoxRules, type SizedImage } from '../../core/templates/box-rules.js';
import type { OutlinedImage } from '../../core/templates/outline.js';
import { TopModel, type Above } from '../../core/templates/top-model.js';
import { isLazy } from '../offered-images.js';
import { toSlot } from '../observed-elements.js';
import type { PageFile } from './page-file.js';
import { moments, NotReadable, type Moment, type Sample } from './samples.js';

type Boxes = Record<Moment, Slot | null>;

/** Where one image of a template lies on a screen at each moment, by where visits saw it. */
export class ElementRules {
  readonly #at: Record<Moment, { box: BoxRules; top: TopModel }>;

  /**
   * @param index of the image on its page
   * @throws {NotReadable} when no rule explains what was seen
   */
  constructor(
    readonly index: number,
    samples: readonly Sample[],
    readonly screen: Screen,
  ) {
    const learn = (moment: Moment) => {
      const seen = samples.flatMap((sample) => {
        const own = sample.elements[index];
        if (!own) return [];
        const above = this.#above(sample.page, sample.heights[moment][index]);
        return [{ ...own.sized, box: own.observed[moment], above }];
      });
      const box = BoxRules.learn(seen);
      const { selector = '' } = samples[0]?.elements[index]?.observed ?? {};
      if (!box)
        throw new NotReadable(`the box of ${selector} on ${screen.name} follows no rule that is known`);
      const placed = seen.flatMap(({ box: place, above }) => (place ? [{ above, top: place.y }] : []));
      return { box, top: TopModel.learn(placed) };
    };
    this.#at = {
      whileWaiting: learn('whileWaiting'),
      beforeScroll: learn('beforeScroll'),
      slot: learn('slot'),
    };
  }

  #above({ text, outline }: PageFile, images = 0): Above {
    return { text, blocks: outline.images[this.index]?.blocksBefore ?? 0, images };
  }

  /**
   * @param heights of the images before it, together, CSS px
   * @throws {NotReadable} when the rules that hold say different things of it
   */
  boxesOn(page: PageFile, sized: SizedImage, heights: Readonly<Record<Moment, number>>): Boxes {
    const boxes: Boxes = { whileWaiting: null, beforeScroll: null, slot: null };
    for (const moment of moments) {
      const { box, top } = this.#at[moment];
      const found = box.boxOf(sized);
      if (found === undefined)
        throw new NotReadable('a picture of another shape or size than its likes have');
      boxes[moment] = toSlot(found && { ...found, y: top.topOf(this.#above(page, heights[moment])) });
    }
    return boxes;
  }

  /**
   * What is judged by whether an image is in the first view must not hang on what is not known exactly.
   * @throws {NotReadable} when it does
   */
  checkCertain(outlined: OutlinedImage, { beforeScroll, whileWaiting }: Boxes): void {
    const changes = (
      slot: Slot | null,
      { top: { error } }: { top: TopModel },
      isTrue: (slot: Slot) => boolean,
    ) => slot !== null && isTrue({ ...slot, y: slot.y - error }) !== isTrue({ ...slot, y: slot.y + error });
    const isIn = (slot: Slot) => shareInFirstView(slot, this.screen) >= enoughInView;
    if (isLazy(outlined) && changes(beforeScroll, this.#at.beforeScroll, isIn))
      throw new NotReadable(`text decides whether a lazy image is in the first view on ${this.screen.name}`);
    if (changes(whileWaiting, this.#at.whileWaiting, (slot) => isAwaitedInView(this.screen, slot)))
      throw new NotReadable(
        `text decides whether the place of an image is in the first view on ${this.screen.name}`,
      );
  }
}
