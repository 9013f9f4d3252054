import { structuralSelectors } from '../../core/markup/script-selectors.js';
import { native, nativeDocument } from './native.js';
import type { PictureWrap } from '../../core/run/placement-types.js';
import { nodeName } from './identity.js';
import { deepQuery, parentOf } from './selector.js';
import { styledSidesOf } from './sides.js';

/** What a page's styles may give an image beside its box, so far as a visitor sees it. */
const looks = [
  'object-fit',
  'object-position',
  'border-top-width',
  'border-top-left-radius',
  'border-bottom-right-radius',
  'padding-top',
  'margin-top',
  'box-shadow',
  'opacity',
  'filter',
  'transform',
  'background-color',
  'background-image',
  'mix-blend-mode',
  'visibility',
] as const;

/** Boxes may be so far off, CSS px. */
const same = 0.3;

/** More images than this are not tried, … */
const mostTried = 400;
/** … and no more of them one by one. */
const mostTriedAlone = 40;

/** Where an image lies in what it stands in, what stands behind it, and what styles give it. */
interface Place {
  sides: number[];
  look: string;
  /** What styles say of its sides, be it `auto`: attributes say nothing of these. */
  styled: string;
  /** What the page's scripts find of it and of what stands behind it. */
  found: string;
}

/** Selectors in the page's scripts that tell of images by what they stand in or beside. */
let scriptSelectors: string[] = [];

function findScriptSelectors(more: readonly string[]): void {
  const own = [...nativeDocument.scripts].flatMap(({ textContent }) =>
    structuralSelectors(textContent ?? ''),
  );
  scriptSelectors = [...new Set([...more, ...own])].filter((selector) => {
    try {
      return nativeDocument.querySelector(selector) !== null;
    } catch {
      return false;
    }
  });
}

/** Positions of the selectors that match elements. */
const foundOf = (...elements: (Element | null)[]): string =>
  elements
    .map((element) =>
      scriptSelectors
        .flatMap((selector, index) => (element && native(element).matches(selector) ? [index] : []))
        .join(),
    )
    .join(' ');

function placeOf(image: HTMLImageElement, parent: Element, next: Element | null): Place {
  const own = image.getBoundingClientRect();
  const around = native(parent).getBoundingClientRect();
  const behind = next && native(next).getBoundingClientRect();
  const style = getComputedStyle(image);
  return {
    sides: [
      own.x - around.x,
      own.y - around.y,
      own.width,
      own.height,
      around.width,
      around.height,
      ...(behind ? [behind.x - around.x, behind.y - around.y, behind.width, behind.height] : []),
      ...behindLine(parent),
    ],
    look: looks.map((name) => style.getPropertyValue(name)).join(' '),
    styled: styledSidesOf(image).join(' '),
    found: foundOf(image, next),
  };
}

/** So many elements are looked at for the first one below a line. */
const mostInLine = 50;

/** How far from an element that stands in a line what follows the line begins: by its image the line may get another height. */
function behindLine(element: Element): number[] {
  if (!standsInLine(element)) return [];
  let inLine = element;
  let block = parentOf(inLine);
  while (block && standsInLine(block)) {
    inLine = block;
    block = parentOf(block);
  }
  const own = native(inLine).getBoundingClientRect();
  let next = native(inLine).nextElementSibling;
  for (let seen = 0; next && seen < mostInLine; seen++) {
    const behind = native(next).getBoundingClientRect();
    // What stands in the same line moves with it.
    if (behind.top >= own.bottom && native(next).getClientRects().length > 0)
      return [behind.x - own.x, behind.y - own.y];
    next = native(next).nextElementSibling;
  }
  return block ? [native(block).getBoundingClientRect().bottom - own.y] : [];
}

const standsInLine = (element: Element) => /^(inline|contents)/.test(getComputedStyle(element).display);

const isSame = (one: Place, other: Place) =>
  one.look === other.look &&
  one.styled === other.styled &&
  one.found === other.found &&
  one.sides.every((side, index) => Math.abs(side - (other.sides[index] ?? side)) <= same);

/** Puts a `picture` around an image, as a text would be written; what is returned takes it away again. */
function wrap(image: HTMLImageElement, way: PictureWrap): () => void {
  const picture = nativeDocument.createElement('picture');
  if (way === 'boxless') picture.setAttribute('style', 'display: contents');
  const space = () => (way === 'spaced' ? [nativeDocument.createTextNode('\n  ')] : []);
  const source = nativeDocument.createElement('source');
  if (way === 'boxless') source.setAttribute('hidden', '');
  image.before(picture);
  picture.append(...space(), source, ...space(), image, ...space());
  return () => {
    picture.replaceWith(image);
  };
}

const ways = ['spaced', 'close', 'boxless'] as const;

/** An image around which a `picture` is tried. */
interface Tried {
  image: HTMLImageElement;
  parent: Element;
  next: Element | null;
  before: Place;
}

function asItStands(image: HTMLImageElement): Tried {
  const parent = parentOf(image) ?? image;
  const next = image.nextElementSibling;
  return { image, parent, next, before: placeOf(image, parent, next) };
}

/** Of some images those that look as before while a `picture` stands around each of them. */
function unchangedBy(way: PictureWrap, tried: readonly Tried[]): Tried[] {
  const undo = tried.map(({ image }) => wrap(image, way));
  const after = tried.map(({ image, parent, next }) => placeOf(image, parent, next));
  for (const back of undo.reverse()) back();
  return tried.filter(({ before }, index) => {
    const now = after[index];
    return now !== undefined && isSame(before, now);
  });
}

/** Of a `picture`: its sources have boxes of their own in what these lay out. */
const partsLieApart = /^(contents|(inline-)?(flex|grid))$/;

/**
 * How a `picture` can be put around each image of the page so that nothing looks different: each is tried and taken away again. An image
 * in a flexible box or beside others in a line lies elsewhere in a `picture`, and styles and scripts may reach it only as a child of what it
 * stands in. Of images without a box, as slides are that wait for their turn, those are told that scripts would not find any more. Of images that stand in a `picture` those are told whose `picture` takes another source only without a box.
 * @param selectors in the scripts that the page asked for
 */
export function pictureWraps(selectors: readonly string[]): Record<string, PictureWrap> {
  findScriptSelectors(selectors);
  const all = deepQuery('img').filter((image) => image instanceof HTMLImageElement);
  const bare = all.filter((image) => {
    const parent = parentOf(image);
    return parent !== null && native(parent).localName !== 'picture';
  });
  const images = bare.filter(
    (image) =>
      image.getClientRects().length > 0 &&
      // What shows its text alternative is laid out anew where it is moved.
      !(image.complete && image.naturalWidth === 0),
  );
  const found: Record<string, PictureWrap> = {};
  for (const image of all) {
    const picture = image.parentElement;
    if (picture?.localName === 'picture' && partsLieApart.test(getComputedStyle(picture).display))
      found[nodeName(image)] = 'boxless';
  }
  let left = images.slice(0, mostTried).map(asItStands);
  const settle = (kept: readonly Tried[], way: PictureWrap) => {
    for (const { image } of kept) found[nodeName(image)] = way;
    left = left.filter((each) => !kept.includes(each));
  };
  for (const way of ways) settle(unchangedBy(way, left), way);
  // One that changes what it stands in, or takes another file once it was moved, makes all beside it look otherwise.
  for (const each of left.slice(0, mostTriedAlone)) {
    const way = ways.find((one) => unchangedBy(one, [asItStands(each.image)]).length > 0);
    if (way) settle([each], way);
  }
  settle(left, 'none');
  for (const image of scriptSelectors.length > 0 ? bare : [])
    if (image.getClientRects().length === 0 && losesScripts(image)) found[nodeName(image)] = 'none';
  return found;
}

function losesScripts(image: HTMLImageElement): boolean {
  const next = image.nextElementSibling;
  const before = foundOf(image, next);
  const undo = wrap(image, 'close');
  const after = foundOf(image, next);
  undo();
  return after !== before;
}
