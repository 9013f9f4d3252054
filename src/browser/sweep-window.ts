import type { Screen } from '../core/run/index.js';

/** The window in which a page is swept: a laptop's height, one device px per CSS px, so that little is painted. */
export const sweepWindow: Screen = {
  name: 'sweep',
  width: 1280,
  height: 900,
  density: 1,
  touch: false,
  share: 0,
};
