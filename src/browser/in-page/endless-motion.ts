import { native, nativeDocument } from './native.js';
import { imageElements } from './placements.js';

/** What is held, and how long it takes to go round once, ms. */
const held = new Map<Animation, number>();

/**
 * Holds what moves images without end, as strips of logos that go round, at a share of its way: else where images are would depend on when
 * they are looked at. Web Animations, section 4.4 "Animations".
 * @param share from 0, where it begins, to 1
 * @returns whether there is any
 */
export function holdEndless(share: number): boolean {
  const animations = nativeDocument.getAnimations();
  const images = animations.length > 0 ? imageElements() : [];
  for (const animation of animations) {
    const cycleMs = held.has(animation) ? undefined : cycleOf(animation, images);
    if (cycleMs === undefined) continue;
    animation.pause();
    held.set(animation, cycleMs);
  }
  for (const [animation, cycleMs] of held) {
    const { delay = 0 } = animation.effect?.getComputedTiming() ?? {};
    animation.currentTime = Math.max(0, delay) + share * cycleMs;
  }
  return held.size > 0;
}

/** How long an animation takes that has no end and moves images, ms; undefined for all others. */
function cycleOf({ effect, playState, timeline }: Animation, images: readonly Element[]): number | undefined {
  if (playState !== 'running' || !(timeline instanceof DocumentTimeline)) return undefined;
  const target = effect instanceof KeyframeEffect ? effect.target : null;
  const { endTime, duration } = effect?.getComputedTiming() ?? {};
  if (!target || endTime !== Infinity || typeof duration !== 'number' || duration <= 0) return undefined;
  return images.some((image) => native(target).contains(image)) ? duration : undefined;
}
