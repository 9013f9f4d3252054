import { nativeDocument } from './native.js';

/** Wider or higher viewports are not told apart, CSS px. */
const most = 20_000;

/**
 * The viewport by which media conditions and lengths count, CSS px: a touch screen lays a page that does not ask for the screen's own width out
 * on one of 980 px. CSS Viewport Module Level 1, section 3 "Viewport meta element".
 */
export function layoutViewport(): { width: number; height: number } {
  return {
    width: sideOf('width', [innerWidth, nativeDocument.documentElement.clientWidth]),
    height: sideOf('height', [innerHeight, nativeDocument.documentElement.clientHeight]),
  };
}

function sideOf(side: 'width' | 'height', guesses: readonly number[]): number {
  const guessed = guesses.find((guess) => matchMedia(`(${side}: ${guess}px)`).matches);
  if (guessed !== undefined) return guessed;
  let [low, high] = [0, most];
  while (high - low > 1) {
    const middle = Math.floor((low + high) / 2);
    if (matchMedia(`(min-${side}: ${middle}px)`).matches) low = middle;
    else high = middle;
  }
  return low;
}
