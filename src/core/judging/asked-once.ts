import type { ImageState } from '../plan/image-state.js';
import { asItIs } from '../plan/plan.js';
import type { Placement } from '../run/types.js';
import type { Facts } from './facts.js';

/**
 * Whether an image in a frame is asked for once on touch screens. Chromium's preload scanner counts there by the viewport of the page around the
 * frame as soon as the frame's document states one (observed in version 147): where that gives another file, two are fetched. What does so
 * already may go on.
 */
export function isAskedOnce(placement: Placement, state: ImageState, { plan, screens }: Facts): boolean {
  if (!placement.frames) return true;
  const original = plan.stateOf(placement, asItIs);
  const isOnce = (offered: ImageState | undefined, name: string) => {
    const screen = screens.find((each) => each.name === name);
    const taken = offered && plan.takenWith(placement, offered, name);
    return !screen || !taken || plan.fileByScreen(offered, screen) === taken.file;
  };
  return screens
    .filter(({ name, touch }) => touch && placement.frames?.[name] && !placement.shown[name]?.lazy)
    .every(({ name }) => isOnce(state, name) || !isOnce(original, name));
}
