import { isAwaitedInView } from '../core/likeness/waiting-look.js';
import type { Slot } from '../core/run/index.js';
import type { WindowShape } from './page-window.js';
import type { Measurement, ObservedPlacement } from './in-page/protocol.js';

type Awaited = ObservedPlacement & { box: Slot };

/** The images of tags that have not come yet, and have a box. */
export const awaitedImages = ({ placements }: Pick<Measurement, 'placements'>): Awaited[] =>
  placements.filter(
    (element): element is Awaited =>
      (element.kind === 'img' || element.kind === 'picture') && !element.complete && element.box !== null,
  );

/** Whether so much of such an image is in view that it counts what a visitor sees there. */
export const showsAwaited = (waiting: Pick<Measurement, 'placements'>, window: WindowShape): boolean =>
  awaitedImages(waiting).some(({ box }) => isAwaitedInView(window, box));
