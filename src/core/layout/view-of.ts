import type { Placement, Screen } from '../run/types.js';

/** The screen as a placement's own document sees it: a frame has a viewport of its own, by which media conditions and lengths count. */
export function viewOf({ frames }: Pick<Placement, 'frames'>, screen: Screen): Screen {
  const viewport = frames?.[screen.name];
  return viewport ? { ...screen, width: viewport.width, height: viewport.height } : screen;
}
