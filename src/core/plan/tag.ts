import { defaultTreeAdapter, html, parseFragment, type DefaultTreeAdapterTypes } from 'parse5';
import type { PictureWrap } from '../run/types.js';
import { writeElement } from './tag-writer.js';

type Node = DefaultTreeAdapterTypes.ChildNode;
type Element = DefaultTreeAdapterTypes.Element;

/** The `img` of a picture, where an edit names a `source` by its position. */
export const theImage = -1;

/** One change of a tag. Edits of `img` reach into a `picture`. */
export type TagEdit =
  | { kind: 'set'; name: string; value: string }
  | { kind: 'remove'; name: string }
  /** Adds a declaration to the style attribute, behind what stands there: several edits may each add theirs. */
  | { kind: 'add-style'; declaration: string }
  /** Changes the nth `source` of the picture, counted from 0. */
  | { kind: 'set-on-source'; index: number; name: string; value: string }
  | { kind: 'remove-on-source'; index: number; name: string }
  /** Puts a source before the nth, or before the image, with the media condition and the dimensions of that unless it has its own. */
  | {
      kind: 'add-source';
      before: number;
      type: string | null;
      media?: string | null;
      dimensions?: { width: number; height: number };
      srcset: string;
      sizes: string | null;
    }
  /** Moves a `source` before another, both counted from 0. */
  | { kind: 'move-source'; from: number; to: number };

/** Attributes that belong together stand together in what we write. */
const order = [
  'src',
  'srcset',
  'sizes',
  'width',
  'height',
  'loading',
  'fetchpriority',
  'decoding',
  'alt',
  'class',
];

/** Sources repeat what the elements say that they stand before, so they come when those are edited. */
const late: Partial<Record<TagEdit['kind'], number>> = { 'move-source': 1, 'add-source': 2 };
const lateness = ({ kind }: TagEdit) => late[kind] ?? 0;

/**
 * Writes the markup of an image with edits applied, ready to paste. Attributes keep their order; new ones are put
 * behind the last of their kin.
 * @param wrap how a `picture` is put around an `img`, where an edit needs one
 * @returns the markup unchanged where it holds no element
 */
export function editMarkup(markup: string, edits: readonly TagEdit[], wrap: PictureWrap = 'spaced'): string {
  const [element] = parsedElements(markup);
  if (!element) return markup;
  const tag = new Tag(element, wrap);
  for (const edit of [...edits].sort((a, b) => lateness(a) - lateness(b))) tag.apply(edit);
  return writeElement(tag.whole, { spaced: tag.whole === element ? isSpaced(element) : wrap === 'spaced' });
}

/** White space in a `picture` parts what stands in one line: there is none where there was none. */
const isSpaced = ({ childNodes }: Element) =>
  childNodes.length < 2 || childNodes.some((node) => !isElement(node));

/** The attribute of the element that `editMarkup` would set; undefined where it is not there. */
export function attributeOf(markup: string, name: string): string | undefined {
  const [element] = parsedElements(markup);
  return element && findAttribute(findTarget(element), name)?.value;
}

/** The attributes for scripts of the element that `editMarkup` would edit, by name. HTML standard, 3.2.6.6. */
export function dataAttributes(markup: string): ReadonlyMap<string, string> {
  // Most images have none, and a page may have thousands of them.
  const [element] = /data-/i.test(markup) ? parsedElements(markup) : [];
  const attributes = element ? findTarget(element).attrs.filter(({ name }) => name.startsWith('data-')) : [];
  return new Map(attributes.map(({ name, value }) => [name, value]));
}

/** Outside a drawing `image` is another name of `img`. HTML standard, 13.2.6.4.7 "The in body insertion mode". */
const ofDrawing = /^\s*<image\b/i;

function parsedElements(text: string): Element[] {
  if (!ofDrawing.test(text)) return parseFragment(text).childNodes.filter(isElement);
  return parseFragment(`<svg>${text}</svg>`).childNodes.flatMap((svg) =>
    isElement(svg) ? svg.childNodes.filter(isElement) : [],
  );
}

/** Of `href` and `xlink:href` the first counts. SVG 2, section 16.1.3 "URL reference attributes". */
const findAttribute = ({ attrs }: Element, name: string) =>
  attrs.find((each) => each.name === name && !each.prefix) ?? attrs.find((each) => each.name === name);

/** The elements of a text, each as text of its own. */
export const elementsOf = (text: string): string[] =>
  parsedElements(text).map((element) => writeElement(element));

class Tag {
  whole: Element;
  readonly #target: Element;
  readonly #sources: Element[];

  constructor(
    element: Element,
    private readonly wrap: PictureWrap,
  ) {
    this.whole = element;
    this.#target = findTarget(element);
    this.#sources = element.childNodes.filter(isElement).filter(({ tagName }) => tagName === 'source');
  }

  apply(edit: TagEdit): void {
    switch (edit.kind) {
      case 'set':
        return setAttribute(this.#target, edit.name, edit.value);
      case 'remove':
        return removeAttribute(this.#target, edit.name);
      case 'add-style':
        return addStyle(this.#target, edit.declaration);
      case 'set-on-source':
        return this.#onSource(edit.index, (source) => setAttribute(source, edit.name, edit.value));
      case 'remove-on-source':
        return this.#onSource(edit.index, (source) => removeAttribute(source, edit.name));
      case 'move-source':
        return moveBefore(this.whole, this.#sources[edit.from], this.#sources[edit.to]);
      case 'add-source':
        return this.#addSource(edit);
    }
  }

  #onSource(index: number, change: (source: Element) => void): void {
    const source = this.#sources[index];
    if (source) change(source);
  }

  #addSource({
    before,
    type,
    media,
    dimensions,
    srcset,
    sizes,
  }: Extract<TagEdit, { kind: 'add-source' }>): void {
    this.whole = asPicture(this.whole, this.wrap);
    const twin = (before === theImage ? this.#target : this.#sources[before]) ?? this.#target;
    const copied = (name: string) =>
      twin === this.#target ? null : (twin.attrs.find((each) => each.name === name)?.value ?? null);
    const source = newElement('source', [
      // In a flexible box or a grid around a picture without a box of its own, a source would be an item with a gap beside it.
      ['hidden', this.wrap === 'boxless' ? '' : null],
      ['type', type],
      ['media', media ?? copied('media')],
      ['srcset', srcset],
      ['sizes', sizes],
      ['width', dimensions ? String(dimensions.width) : copied('width')],
      ['height', dimensions ? String(dimensions.height) : copied('height')],
    ]);
    defaultTreeAdapter.insertBefore(this.whole, source, twin);
  }
}

export function isElement(node: Node): node is Element {
  return 'tagName' in node;
}

function findTarget(element: Element): Element {
  if (element.tagName !== 'picture') return element;
  return element.childNodes.filter(isElement).find(({ tagName }) => tagName === 'img') ?? element;
}

/** The element as a `picture`: itself, or one made around it. */
function asPicture(element: Element, wrap: PictureWrap): Element {
  if (element.tagName === 'picture') return element;
  const picture = newElement('picture', [['style', wrap === 'boxless' ? 'display: contents' : null]]);
  defaultTreeAdapter.appendChild(picture, element);
  return picture;
}

function newElement(name: string, attributes: readonly (readonly [string, string | null])[]): Element {
  return defaultTreeAdapter.createElement(
    name,
    html.NS.HTML,
    attributes.flatMap(([each, value]) => (value === null ? [] : [{ name: each, value }])),
  );
}

function moveBefore(parent: Element, moved: Element | undefined, other: Element | undefined): void {
  if (!moved || !other) return;
  const rest = parent.childNodes.filter((node) => node !== moved);
  rest.splice(rest.indexOf(other), 0, moved);
  parent.childNodes = rest;
}

function addStyle(element: Element, declaration: string): void {
  const written = element.attrs.find(({ name }) => name === 'style')?.value ?? '';
  const present = written.replace(/;\s*$/, '').trim();
  if (present === '') setAttribute(element, 'style', declaration);
  else if (!`; ${present};`.includes(`; ${declaration};`))
    setAttribute(element, 'style', `${present}; ${declaration}`);
}

function removeAttribute(element: Element, name: string): void {
  element.attrs = element.attrs.filter((each) => each.name !== name);
}

function setAttribute(element: Element, name: string, value: string): void {
  const present = findAttribute(element, name);
  if (present) {
    present.value = value;
    return;
  }
  const rank = order.indexOf(name);
  const kin = element.attrs.findLastIndex((attribute) => {
    const other = order.indexOf(attribute.name);
    return other >= 0 && rank >= 0 && other < rank;
  });
  element.attrs.splice(kin >= 0 ? kin + 1 : element.attrs.length, 0, { name, value });
}
