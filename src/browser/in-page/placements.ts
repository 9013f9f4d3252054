import { native, nativeDocument } from './native.js';
import { ancestorChain, deepQuery, uniqueSelector } from './selector.js';
import { nodeName } from './identity.js';
import { scrolledDown } from './scrolling.js';
import { turnedScale } from './turned-scale.js';
import { behindOf, isConcealed, isSeen } from './visibility.js';
import { sidesOf, styledSides } from './sides.js';
import type { Attributes, Box, ObservedPlacement, SweptSize } from './protocol.js';

const longestMarkup = 20_000;
const svgNamespace = 'http://www.w3.org/2000/svg';

/** Every element of the document that shows an image by itself, in document order. */
export function imageElements(): Element[] {
  return deepQuery('img, input[type="image" i], image, video[poster], object[data], embed[src]').filter(
    (element) => native(element).localName !== 'image' || native(element).namespaceURI === svgNamespace,
  );
}

export function observe(element: Element): ObservedPlacement {
  const around = native(element).parentElement;
  const picture = native(element).localName === 'img' && around?.localName === 'picture';
  const style = getComputedStyle(element);
  const image = element instanceof HTMLImageElement ? element : undefined;
  return {
    kind: picture ? 'picture' : kindOf(element),
    node: nodeName(element),
    selector: uniqueSelector(element),
    tag: native(element).localName,
    attributes: attributesOf(element),
    sources: picture ? sourcesBefore(element) : [],
    chain: ancestorChain(element),
    markup: (picture ? (native(element).parentElement ?? element) : element).outerHTML.slice(
      0,
      longestMarkup,
    ),
    box: contentBox(element, style),
    seen: isSeen(element),
    concealed: isConcealed(element),
    behind: behindOf(element),
    fit: style.objectFit,
    pixelated: isPixelated(style),
    ...(image ? sidesOf(element) : styledSides),
    currentSrc: image ? image.currentSrc : addressOf(element),
    complete: image ? image.complete : true,
    naturalWidth: image ? image.naturalWidth : 0,
    naturalHeight: image ? image.naturalHeight : 0,
  };
}

/** CSS Images Level 3, 6.1 "image-rendering". */
export const isPixelated = ({ imageRendering }: CSSStyleDeclaration): boolean =>
  imageRendering === 'pixelated' || imageRendering === 'crisp-edges';

export function slotSizes(): Record<string, SweptSize | null> {
  const sizes: Record<string, SweptSize | null> = {};
  for (const element of imageElements()) {
    const style = getComputedStyle(element);
    const box = contentBox(element, style);
    const image = element instanceof HTMLImageElement ? element : undefined;
    sizes[nodeName(element)] = box && {
      width: box.width,
      height: box.height,
      fit: style.objectFit,
      ratio: image ? ratioOf(image) : 0,
    };
  }
  return sizes;
}

/**
 * Natural sizes are whole numbers, and another file is picked at every few widths: the first ratio stays until one comes that is another
 * crop's. Attributes that say the same shape say it more exactly.
 */
const ratios = new WeakMap<HTMLImageElement, number>();

const otherCrop = (a: number, b: number) => Math.abs(a / b - 1) > 0.03;

function ratioOf(image: HTMLImageElement): number {
  const natural = image.naturalHeight > 0 ? image.naturalWidth / image.naturalHeight : 0;
  const known = ratios.get(image);
  if (known !== undefined && (natural === 0 || !otherCrop(natural, known))) return known;
  const [width, height] = [Number(image.getAttribute('width')), Number(image.getAttribute('height'))];
  const stated = width > 0 && height > 0 ? width / height : 0;
  const ratio = stated > 0 && natural > 0 && !otherCrop(stated, natural) ? stated : natural;
  if (ratio > 0) ratios.set(image, ratio);
  return ratio;
}

function kindOf(element: Element): ObservedPlacement['kind'] {
  switch (native(element).localName) {
    case 'input':
      return 'input';
    case 'image':
      return 'svg-image';
    case 'video':
      return 'video-poster';
    case 'object':
    case 'embed':
      return 'object';
    default:
      return 'img';
  }
}

function addressOf(element: Element): string {
  const written =
    native(element).getAttribute('src') ??
    native(element).getAttribute('data') ??
    native(element).getAttribute('href') ??
    element.getAttributeNS('http://www.w3.org/1999/xlink', 'href');
  const address = element instanceof HTMLVideoElement ? element.poster : (written ?? '');
  // An address that is none stands as it is written: the page around it can be seen all the same.
  return address !== '' && URL.canParse(address, nativeDocument.baseURI)
    ? new URL(address, nativeDocument.baseURI).href
    : address;
}

export function attributesOf(element: Element): Attributes {
  return [...native(element).attributes].map(({ name, value }) => [name, value]);
}

function sourcesBefore(image: Element): Attributes[] {
  const sources: Attributes[] = [];
  for (let node = image.previousElementSibling; node; node = native(node).previousElementSibling)
    if (native(node).localName === 'source') sources.unshift(attributesOf(node));
  return sources;
}

/**
 * The content box in document coordinates, transforms applied; of an element that is turned its own sides, around its middle. Null for an
 * element without a box, and for one in what is skipped, as the content of a closed `details` is: browsers tell a box of that, but nothing is
 * shown there and nothing lazy fetched. CSS Containment Level 2, section 4.
 */
export function contentBox(element: Element, style: CSSStyleDeclaration): Box | null {
  if (native(element).getClientRects().length === 0 || !element.checkVisibility()) return null;
  const rect = native(element).getBoundingClientRect();
  const side = (name: string) => Number.parseFloat(style.getPropertyValue(name)) || 0;
  const left = side('border-left-width') + side('padding-left');
  const right = side('border-right-width') + side('padding-right');
  const top = side('border-top-width') + side('padding-top');
  const bottom = side('border-bottom-width') + side('padding-bottom');
  const html = element instanceof HTMLElement ? element : undefined;
  const scaleX = html && html.offsetWidth > 0 ? rect.width / html.offsetWidth : 1;
  const scaleY = html && html.offsetHeight > 0 ? rect.height / html.offsetHeight : 1;
  // offsetWidth is a whole number: only a real transform differs from it by more than rounding.
  const x = Math.abs(scaleX - 1) * (html?.offsetWidth ?? 0) < 1 ? 1 : scaleX;
  const y = Math.abs(scaleY - 1) * (html?.offsetHeight ?? 0) < 1 ? 1 : scaleY;
  const turned = html && (x !== 1 || y !== 1) ? turnedScale(html) : undefined;
  if (html && turned) {
    // As laid out, to parts of a px.
    const inside = (side: 'width' | 'height', whole: number, edges: number) =>
      (Number.parseFloat(style[side]) || whole) - (style.boxSizing === 'border-box' ? edges : 0);
    const width = Math.max(0, inside('width', html.offsetWidth, left + right)) * turned.x;
    const height = Math.max(0, inside('height', html.offsetHeight, top + bottom)) * turned.y;
    return {
      x: rect.left + scrollX + (rect.width - width) / 2,
      y: rect.top + scrolledDown(element) + (rect.height - height) / 2,
      width,
      height,
    };
  }
  return {
    x: rect.left + scrollX + left * x,
    y: rect.top + scrolledDown(element) + top * y,
    width: Math.max(0, rect.width - (left + right) * x),
    height: Math.max(0, rect.height - (top + bottom) * y),
  };
}
