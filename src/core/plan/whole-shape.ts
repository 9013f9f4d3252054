/** A file may be so much wider than what is needed, to have the shape of its picture, … */
const mostWider = 0.01;
/** … and a small one, which takes few bytes and whose sides are rounded most, by so many px. */
const fewPixels = 4;

/** Shapes whose heights differ by no more than this share are the same; … */
const sameShape = 0.0002;
/** … and one that is better by less is no reason for a wider file. */
const noBetter = 0.0001;

/**
 * The width of a file, from one on that is needed, at which whole px keep the shape of its picture: the first at which they do, or that
 * at which they do best. Where boxes follow from their files, another shape makes them higher or lower by parts of a px, and what floats
 * beside them is caught on such a step. Device px.
 * @param picture the size of the file that it is made of, device px
 * @returns at most a hundredth more than what is needed, or 4 px
 */
export function wholeShapeFrom(needed: number, picture: { width: number; height: number }): number {
  let best = { width: needed, error: Number.POSITIVE_INFINITY };
  const most = Math.min(picture.width, Math.floor(Math.max(needed * (1 + mostWider), needed + fewPixels)));
  for (let width = needed; width <= most; width++) {
    const height = (width * picture.height) / picture.width;
    const error = Math.abs(Math.round(height) - height) / height;
    if (error < best.error - noBetter) best = { width, error };
    if (error <= sameShape) break;
  }
  return best.width;
}
