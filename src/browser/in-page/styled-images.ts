import { native } from './native.js';
import { contentBox, isPixelated } from './placements.js';
import { styleAttribute, type ObservedPlacement } from './protocol.js';
import { styledSides } from './sides.js';
import { allContainersHold } from './container-conditions.js';
import { matches, readRules } from './style-rules.js';
import { ancestorChain, deepQuery, uniqueSelector } from './selector.js';
import { nodeName } from './identity.js';
import { scrolledDown } from './scrolling.js';
import { isConcealed, isSeen } from './visibility.js';

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
    splitLayers(value).forEach((layer, index) => {
      const own = addressesOf(layer).filter((url) => !url.startsWith('data:') && !url.startsWith('#'));
      if (own.length > 0)
        found.push(describe(element, pseudo, style, { property, layer: index, value: layer, own }));
    });
  }
}

/** Cuts a value at the commas that stand in no brackets and no quotes. */
function splitLayers(value: string): string[] {
  const layers = [''];
  let depth = 0;
  let quoted = false;
  for (const [index, sign] of [...value].entries()) {
    if (sign === '"' && value[index - 1] !== '\\') quoted = !quoted;
    if (!quoted && sign === '(') depth++;
    if (!quoted && sign === ')') depth--;
    if (!quoted && depth === 0 && sign === ',') layers.push('');
    else layers[layers.length - 1] += sign;
  }
  return layers.map((layer) => layer.trim());
}

const addressesOf = (layer: string) =>
  [...layer.matchAll(/url\("((?:[^"\\]|\\.)*)"\)/g)].map(([, url = '']) => url.replace(/\\(.)/g, '$1'));

interface StyledLayer {
  property: string;
  layer: number;
  value: string;
  own: string[];
}

function describe(
  element: Element,
  pseudo: string | undefined,
  style: CSSStyleDeclaration,
  { property, layer, value, own }: StyledLayer,
): ObservedPlacement {
  const box = contentBox(element, getComputedStyle(element));
  return {
    kind: 'css-image',
    node: `${nodeName(element)}${pseudo ?? ''}`,
    selector: `${uniqueSelector(element)}${pseudo ?? ''}`,
    tag: native(element).localName,
    attributes:
      native(element).className && typeof native(element).className === 'string'
        ? [['class', native(element).className]]
        : [],
    sources: [],
    chain: ancestorChain(element),
    markup: `${property}: ${value}`,
    box: box && paintedBox(element, pseudo, property, box),
    seen: isSeen(element),
    concealed: isConcealed(element),
    behind: 'nothing',
    fit: fitOf(style, property, layer),
    pixelated: isPixelated(style),
    ...styledSides,
    currentSrc: own[0] ?? '',
    complete: true,
    naturalWidth: 0,
    naturalHeight: 0,
    addresses: own,
    style: { property, layer },
    rules: rulesShowing(element, pseudo, property),
  };
}

/** The selectors of the rules that name an image for an element. */
function rulesShowing(element: Element, pseudo: string | undefined, property: string): string[] {
  const names = (style: CSSStyleDeclaration) => /url\(|image-set\(/.test(style.getPropertyValue(property));
  const rules = readRules()
    .filter(
      ({ whole, style, containers }) =>
        names(style) && matchesPart(element, pseudo, whole) && allContainersHold(element, containers),
    )
    .map(({ selector }) => selector);
  const own = pseudo === undefined && element instanceof HTMLElement && names(native(element).style);
  return own ? [...rules, styleAttribute] : rules;
}

const pseudoEnding = /::?(before|after)\s*$/;

function matchesPart(element: Element, pseudo: string | undefined, selector: string): boolean {
  return selector.split(/,(?![^(]*\))/).some((part) => {
    const ending = pseudoEnding.exec(part)?.[1];
    if ((ending === undefined ? undefined : `::${ending}`) !== pseudo) return false;
    const bare = part.replace(pseudoEnding, '').trim();
    return matches(element, bare === '' ? '*' : bare);
  });
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
  const rect = native(element).getBoundingClientRect();
  return {
    x: rect.left + scrollX,
    y: rect.top + scrolledDown(element),
    width: rect.width,
    height: rect.height,
  };
}

/** How large a layer is drawn; lists of sizes are repeated where there are more images. */
function fitOf(style: CSSStyleDeclaration, property: string, layer: number): string {
  const sizes = splitLayers(
    style.getPropertyValue(property === 'mask-image' ? 'mask-size' : 'background-size'),
  );
  const size = sizes[layer % sizes.length] ?? 'auto';
  return size === 'auto' || size === 'auto auto' ? 'none' : size;
}
