import { contentBox } from './placements.js';
import type { ObservedPlacement } from './protocol.js';
import { ancestorChain, deepQuery, uniqueSelector } from './selector.js';
import { isSeen } from './visibility.js';

/** Properties whose values show images. */
const properties = [
  'background-image',
  'border-image-source',
  'list-style-image',
  'mask-image',
  'content',
  'cursor',
];
const pseudoElements = [undefined, '::before', '::after'] as const;
/** Pages with more elements than this are looked at no further. */
const mostElements = 20_000;

/** Images that style sheets show, an entry for each element and property. */
export function styledImages(): ObservedPlacement[] {
  const found: ObservedPlacement[] = [];
  let count = 0;
  for (const element of deepQuery('*')) {
    if (++count > mostElements) break;
    for (const pseudo of pseudoElements) addImages(element, pseudo, found);
  }
  return found;
}

function addImages(element: Element, pseudo: string | undefined, found: ObservedPlacement[]): void {
  const style = getComputedStyle(element, pseudo);
  // A pseudo-element without content is not there.
  if (pseudo && (style.content === 'none' || style.content === 'normal')) return;
  for (const property of properties) {
    const value = style.getPropertyValue(property);
    if (!value.includes('url(')) continue;
    // What is inherited is shown by the element that the list items are in.
    if (property === 'list-style-image' && style.display !== 'list-item') continue;
    const addresses = [...value.matchAll(/url\("((?:[^"\\]|\\.)*)"\)/g)].map(([, url = '']) =>
      url.replace(/\\(.)/g, '$1'),
    );
    const own = addresses.filter((url) => !url.startsWith('data:') && !url.startsWith('#'));
    if (own.length === 0) continue;
    found.push(describe(element, pseudo, property, style, own));
  }
}

function describe(
  element: Element,
  pseudo: string | undefined,
  property: string,
  style: CSSStyleDeclaration,
  addresses: string[],
): ObservedPlacement {
  const box = contentBox(element, getComputedStyle(element));
  return {
    kind: 'css-image',
    selector: `${uniqueSelector(element)}${pseudo ?? ''}`,
    tag: element.localName,
    attributes:
      element.className && typeof element.className === 'string' ? [['class', element.className]] : [],
    sources: [],
    chain: ancestorChain(element),
    markup: `${property}: ${style.getPropertyValue(property)}`,
    box: box && paintedBox(element, pseudo, property, box),
    seen: isSeen(element),
    behind: 'nothing',
    fit: fitOf(style, property),
    currentSrc: addresses[0] ?? '',
    complete: true,
    naturalWidth: 0,
    naturalHeight: 0,
    addresses,
  };
}

/** Backgrounds are drawn over the padding; what is drawn for pseudo-elements and cursors has no box that could be asked for. */
function paintedBox(
  element: Element,
  pseudo: string | undefined,
  property: string,
  box: NonNullable<ObservedPlacement['box']>,
) {
  if (pseudo !== undefined || property !== 'background-image')
    return pseudo === undefined && property === 'mask-image' ? box : null;
  const rect = element.getBoundingClientRect();
  return { x: rect.left + scrollX, y: rect.top + scrollY, width: rect.width, height: rect.height };
}

function fitOf(style: CSSStyleDeclaration, property: string): string {
  const size = style.getPropertyValue(property === 'mask-image' ? 'mask-size' : 'background-size');
  if (size.startsWith('cover')) return 'cover';
  if (size.startsWith('contain')) return 'contain';
  return size.startsWith('100% 100%') ? 'fill' : 'none';
}
