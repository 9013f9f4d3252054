import { parseFragment, type DefaultTreeAdapterTypes } from 'parse5';
import type { ImageMarkup, SourceAttributes } from './image-source.js';

type Node = DefaultTreeAdapterTypes.ChildNode;
type Element = DefaultTreeAdapterTypes.Element;

const named = ['src', 'srcset', 'sizes', 'media', 'type', 'width', 'height', 'loading'] as const;

/** The attributes that choose an image, of all of an element's. */
export function sourceAttributes(
  attributes: Iterable<readonly [name: string, value: string]>,
): SourceAttributes {
  const all = new Map(attributes);
  const chosen: SourceAttributes = {};
  for (const name of named) {
    const value = all.get(name);
    if (value !== undefined) chosen[name] = value;
  }
  return chosen;
}

/**
 * Reads the first `img` of a piece of HTML, with the `source` elements before it where it stands in a `picture`.
 * @returns undefined when there is none
 */
export function readImageMarkup(html: string): ImageMarkup | undefined {
  if (read.has(html)) return read.get(html);
  const markup = parseImageMarkup(html);
  if (read.size >= mostRead) read.clear();
  read.set(html, markup);
  return markup;
}

/** The same few texts are read again and again while a site is judged. */
const read = new Map<string, ImageMarkup | undefined>();
const mostRead = 2000;

function parseImageMarkup(html: string): ImageMarkup | undefined {
  const image = findImage(parseFragment(html).childNodes);
  if (!image) return undefined;
  const parent = image.parentNode;
  const siblings =
    parent && 'tagName' in parent && parent.tagName === 'picture'
      ? parent.childNodes.slice(0, parent.childNodes.indexOf(image)).filter(isElement)
      : [];
  return {
    img: attributesOf(image),
    sources: siblings.filter(({ tagName }) => tagName === 'source').map(attributesOf),
  };
}

function findImage(nodes: readonly Node[]): Element | undefined {
  for (const node of nodes) {
    if (!isElement(node)) continue;
    if (node.tagName === 'img') return node;
    const inside = findImage(node.childNodes);
    if (inside) return inside;
  }
  return undefined;
}

function isElement(node: Node): node is Element {
  return 'tagName' in node;
}

function attributesOf({ attrs }: Element): SourceAttributes {
  return sourceAttributes(attrs.map(({ name, value }) => [name, value] as const));
}
