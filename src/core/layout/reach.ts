/** A point of the reach curve: the share of visits that scroll at least this many viewport heights of page. */
export interface ReachPoint {
  /** Lower edge of what was seen, in viewport heights; 1 is the fold. */
  viewports: number;
  share: number;
}

export type ReachCurve = readonly ReachPoint[];

/**
 * Unless told otherwise: everybody sees the first view, half of all visits reach the fourth screenful, one in ten the
 * sixteenth. Each doubling of the depth loses about a quarter to a half of those who were still there, which is
 * the shape that scroll statistics of article and listing pages have; sites with statistics should set their own.
 */
export const defaultReach: ReachCurve = [
  { viewports: 1, share: 1 },
  { viewports: 2, share: 0.75 },
  { viewports: 4, share: 0.5 },
  { viewports: 8, share: 0.25 },
  { viewports: 16, share: 0.1 },
];

/** Share of visits that reach a depth, 0 to 1: straight lines between the points, flat beyond them. */
export function reachAt(viewports: number, curve: ReachCurve): number {
  const [first] = curve;
  if (!first) return 1;
  if (viewports <= first.viewports) return first.share;
  for (let index = 1; index < curve.length; index++) {
    const low = curve[index - 1] ?? first;
    const high = curve[index] ?? low;
    if (viewports > high.viewports) continue;
    const part = (viewports - low.viewports) / (high.viewports - low.viewports);
    return low.share + part * (high.share - low.share);
  }
  return curve.at(-1)?.share ?? 1;
}

/**
 * Probability that a visit causes a download that begins when the viewport's upper edge is at a scroll depth.
 * @param scrollDepth CSS px
 * @param viewportHeight CSS px
 */
export function reachOfScroll(scrollDepth: number, viewportHeight: number, curve: ReachCurve): number {
  return reachAt(1 + scrollDepth / viewportHeight, curve);
}
