import type { Measurement, VisitRecord } from '../browser/index.js';
import { groupBy } from '../core/grouping.js';
import { readImageMarkup } from '../core/markup/index.js';
import { isOwnAttribute } from '../core/markup/own-attributes.js';
import type { Placement } from '../core/run/index.js';
import { toDecimals } from '../core/wording/rounding.js';
import type { Identified } from './identity.js';
import type { ObservedElement } from './observed-elements.js';

/** Whether an image names one file for all screens: only such a one can keep the pixels that it is shown with elsewhere. */
export const namesOneFile = ({ kind, attributes }: Pick<ObservedElement, 'kind' | 'attributes'>): boolean =>
  kind === 'img' && attributes.every(([name]) => name !== 'srcset');

/**
 * How wide a script shows the files of images elsewhere that it takes their addresses from, CSS px, by node: as wide as the widest image that got the address,
 * whatever that showed when it was looked at; where a click enlarges an image, as wide as the window at most.
 */
export function widthsElsewhere(
  looks: readonly (Measurement | undefined)[],
  { addressed }: VisitRecord['written'],
): Map<string, number> {
  const seen = looks.flatMap((look) => look ?? []);
  const widest = new Map<string, number>();
  if (addressed.size > 0)
    for (const { node, box } of seen.flatMap(({ placements }) => placements))
      widest.set(node, Math.max(widest.get(node) ?? 0, box?.width ?? 0));
  const window = Math.max(0, ...seen.map(({ viewportWidth }) => viewportWidth));
  const widths = new Map<string, number>();
  for (const [node, { receivers, enlarged }] of addressed) {
    const width = Math.max(enlarged ? window : 0, ...receivers.map((each) => widest.get(each) ?? 0));
    if (width > 0) widths.set(node, toDecimals(width, 2));
  }
  return widths;
}

/** A sign that a script repeats is the same each time. */
const mostCompared = 20;

/**
 * The elements of a page, of which those are told as addressed by a script whose file an image shows that stands in no file of the site, and such an image:
 * the script took the address, or copied the element without what it stands in. What scripts put there while the page was parsed shows only so.
 */
export function withCopiedOriginals<Each extends Pick<Identified, 'element' | 'place'>>(
  elements: readonly Each[],
): readonly Each[] {
  const isShared = ({ element }: Each) => element.sharesFile && namesOneFile(element);
  const made = groupBy(
    elements.filter((each) => isShared(each) && !each.place),
    ({ element }) => element.currentSrc,
  );
  if (made.size === 0) return elements;
  const originals = groupBy(
    elements.filter((each) => isShared(each) && each.place),
    ({ element }) => element.currentSrc,
  );
  return elements.map((each) => {
    if (!isShared(each)) return each;
    const { element, place } = each;
    const others = (place ? made : originals).get(element.currentSrc) ?? [];
    const apart = others
      .slice(0, mostCompared)
      .filter((other) =>
        place ? !isWholeCopy(other.element, element) : !isWholeCopy(element, other.element),
      );
    if (apart.length === 0) return each;
    const widths = place ? apart.map((copy) => copy.element.slot?.width ?? 0) : [];
    const widthElsewhere = Math.max(element.widthElsewhere, ...widths);
    return { ...each, element: { ...element, addressed: true, widthElsewhere } };
  });
}

/** Whether an image says all that another one says, in a parent of the same kind: as in a copy of what that stands in. */
function isWholeCopy(copy: ObservedElement, original: ObservedElement): boolean {
  const names = new Set(copy.attributes.map(([name]) => name));
  return (
    original.attributes.every(([name]) => !isOwnAttribute(name) || names.has(name)) &&
    copy.chain.at(-1)?.tag === original.chain.at(-1)?.tag
  );
}

/** A script that takes one of several images which stand alike takes the others too, in its time. What it made as a copy is as the image that it copied. */
export function spreadElsewhere(placements: readonly Placement[]): void {
  const images = placements.filter(({ kind }) => kind === 'img');
  const widest = new Map<string, number>();
  for (const { template, shown } of images)
    for (const [screen, { widthElsewhere = 0 }] of Object.entries(shown)) {
      const key = keyOf(template, screen);
      if (widthElsewhere > (widest.get(key) ?? 0)) widest.set(key, widthElsewhere);
    }
  if (widest.size === 0) return;
  const originals = new Map<string, Placement>();
  for (const image of images) if (image.source) originals.set(textOf(image), image);
  for (const image of images) {
    const original = image.source ? image : originals.get(textOf(image));
    for (const [screen, seen] of Object.entries(image.shown)) {
      const width = original && widest.get(keyOf(original.template, screen));
      if (width === undefined) continue;
      seen.addressed = true;
      seen.widthElsewhere = width;
    }
  }
}

const keyOf = (template: string, screen: string) => JSON.stringify([template, screen]);

const textOf = ({ markup }: Placement) => JSON.stringify(readImageMarkup(markup));
