import type { WindowHeights, Placement, Screen, Slot } from '../run/types.js';

/**
 * The screen as a placement's own document sees it: a frame has a viewport of its own, by which media conditions and lengths count, and so has a
 * page that does not ask for the width of the screen.
 */
export function viewOf(
  { frames, viewports }: Pick<Placement, 'frames' | 'viewports'>,
  screen: Screen,
): Screen {
  const viewport = frames?.[screen.name] ?? viewports?.[screen.name];
  return viewport ? { ...screen, width: viewport.width, height: viewport.height } : screen;
}

/** The screen in px of the page, in which slots are counted, those in frames too. */
export function pageView({ viewports }: Pick<Placement, 'viewports'>, screen: Screen): Screen {
  return viewOf(viewports ? { viewports } : {}, screen);
}

/** The window by which the browser tells what is near, and what is seen of it at once, CSS px. */
export function windowOf(placement: Pick<Placement, 'viewports' | 'windows'>, screen: Screen): WindowHeights {
  const { height } = pageView(placement, screen);
  return placement.windows?.[screen.name] ?? { height, seen: height };
}

/** Whether a lazy image in a slot waits until the page is scrolled: it lies farther below the window than the browser looks, CSS px. */
export function waitsForScroll(
  placement: Pick<Placement, 'viewports' | 'windows'>,
  slot: Slot,
  screen: Screen,
  lazyDistance: number,
): boolean {
  return slot.y - windowOf(placement, screen).height >= lazyDistance;
}

/**
 * Screenfuls down to the lower edge of what a visitor has seen who causes the download of a lazy image at a height of the page: the window
 * moves only once all of it has been passed.
 */
export const screenfulsTo = (y: number, { seen }: WindowHeights, lazyDistance: number): number =>
  (y - lazyDistance) / seen;
