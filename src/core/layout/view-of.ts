import type { Placement, Screen } from '../run/types.js';

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
