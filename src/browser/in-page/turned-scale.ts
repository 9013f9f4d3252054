import { native } from './native.js';

/** A matrix that turns or slants by less leaves the sides of a box where they are. */
const noticeable = 0.01;

/**
 * By how much an element that is turned or slanted on the page is larger or smaller along its own sides; undefined for one that is not,
 * or not in the plane. The box around it is wider and higher than itself. CSS Transforms Level 2, sections 6 and 9.
 */
export function turnedScale(element: Element): { x: number; y: number } | undefined {
  let matrix = new DOMMatrix();
  for (let node: Element | null = element; node; node = parentOf(node))
    matrix = ownMatrix(node).multiply(matrix);
  const { is2D, a, b, c, d } = matrix;
  if (!is2D || (Math.abs(b) < noticeable && Math.abs(c) < noticeable)) return undefined;
  return { x: Math.hypot(a, b), y: Math.hypot(c, d) };
}

const parentOf = (element: Element): Element | null =>
  native(element).assignedSlot ?? native(element).parentElement ?? hostOf(element);

function hostOf(element: Element): Element | null {
  const root = element.getRootNode();
  return root instanceof ShadowRoot ? root.host : null;
}

function ownMatrix(element: Element): DOMMatrix {
  const { rotate, scale, transform } = getComputedStyle(element);
  const matrix = new DOMMatrix();
  if (/^-?[\d.]+deg$/.test(rotate)) matrix.rotateSelf(Number.parseFloat(rotate));
  const [x = 1, y = x] = scale === 'none' ? [] : scale.split(' ').map(Number);
  matrix.scaleSelf(x, y);
  return transform === 'none' ? matrix : matrix.multiply(new DOMMatrix(transform));
}
