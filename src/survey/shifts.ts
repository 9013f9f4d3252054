import { toDecimals } from '../core/wording/rounding.js';
import type { ImageRelease } from '../browser/index.js';
import type { Rectangle } from '../core/layout/rectangle.js';
import type { PageShift, ShiftRelease, Slot } from '../core/run/index.js';
import { layoutShift } from '../core/shift/layout-shift.js';
import type { SiteUrls } from './site-urls.js';

/** Things named of each release; the others are counted. */
const mostNamed = 5;

const wholePixels = ({ x, y, width, height }: Rectangle): Slot => ({
  x: Math.round(x),
  y: Math.round(y),
  width: Math.round(width),
  height: Math.round(height),
});

/** Scores to the ten-thousandth: finer than any judgement. */
const rounded = (score: number) => toDecimals(score, 4);

/** What each image moved when it arrived, by our own arithmetic and as the browser reported it. */
export function pageShift(releases: readonly ImageRelease[], urls: SiteUrls): PageShift {
  const rows = releases.map((release) => {
    const shift = layoutShift(release.moved, release.viewport);
    const row: ShiftRelease = {
      url: release.url === null ? null : urls.shorten(release.url),
      selectors: release.selectors,
      score: rounded(shift.score),
      observed: rounded(release.reported),
      moved: shift.moved.slice(0, mostNamed).map(({ name, by, from, to }) => ({
        name,
        by: Math.round(by),
        from: wholePixels(from),
        to: wholePixels(to),
      })),
      count: shift.moved.length,
    };
    return row;
  });
  const sum = (value: (row: ShiftRelease) => number) =>
    rounded(rows.reduce((total, row) => total + value(row), 0));
  return {
    score: sum(({ score }) => score),
    observed: sum(({ observed }) => observed),
    releases: rows.filter(({ url, score, observed }) => url !== null || score > 0 || observed > 0),
  };
}
