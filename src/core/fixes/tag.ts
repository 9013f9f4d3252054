import { parseFragment, type DefaultTreeAdapterTypes } from 'parse5';

type Node = DefaultTreeAdapterTypes.ChildNode;
type Element = DefaultTreeAdapterTypes.Element;

/** One change of a tag. Edits of `img` reach into a `picture`. */
export type TagEdit =
  | { kind: 'set'; name: string; value: string }
  | { kind: 'remove'; name: string }
  /** Changes the nth `source` of the picture, counted from 0. */
  | { kind: 'set-on-source'; index: number; name: string; value: string }
  /** Moves a `source` before another, both counted from 0. */
  | { kind: 'move-source'; from: number; to: number };

const lineLimit = 72;

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

/**
 * Writes the markup of an image with edits applied, ready to paste. Attributes keep their order; new ones are put
 * behind the last of their kin.
 * @returns the markup unchanged where it holds no element
 */
export function editMarkup(markup: string, edits: readonly TagEdit[]): string {
  const [element] = parseFragment(markup).childNodes.filter(isElement);
  if (!element) return markup;
  const target = findTarget(element);
  const sources = element.childNodes.filter(isElement).filter(({ tagName }) => tagName === 'source');
  for (const edit of edits) {
    if (edit.kind === 'set') setAttribute(target, edit.name, edit.value);
    else if (edit.kind === 'remove') target.attrs = target.attrs.filter(({ name }) => name !== edit.name);
    else if (edit.kind === 'move-source') moveBefore(element, sources[edit.from], sources[edit.to]);
    else {
      const source = sources[edit.index];
      if (source) setAttribute(source, edit.name, edit.value);
    }
  }
  return write(element, '');
}

function isElement(node: Node): node is Element {
  return 'tagName' in node;
}

function findTarget(element: Element): Element {
  if (element.tagName !== 'picture') return element;
  return element.childNodes.filter(isElement).find(({ tagName }) => tagName === 'img') ?? element;
}

function moveBefore(parent: Element, moved: Element | undefined, other: Element | undefined): void {
  if (!moved || !other) return;
  const rest = parent.childNodes.filter((node) => node !== moved);
  rest.splice(rest.indexOf(other), 0, moved);
  parent.childNodes = rest;
}

function setAttribute(element: Element, name: string, value: string): void {
  const present = element.attrs.find((attribute) => attribute.name === name);
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

/** Elements that have no closing tag. HTML standard, 13.1.2 "void elements". */
const voidElements = new Set(['img', 'source', 'input', 'link', 'embed', 'track', 'br']);

function write(element: Element, indent: string): string {
  const tag = openingTag(element, indent);
  if (voidElements.has(element.tagName)) return tag;
  const children = element.childNodes.filter(isElement);
  const inner = children.map((child) => `\n${indent}  ${write(child, `${indent}  `)}`).join('');
  return `${tag}${inner}${children.length > 0 ? `\n${indent}` : ''}</${element.tagName}>`;
}

function openingTag({ tagName, attrs }: Element, indent: string): string {
  const single = `<${[tagName, ...attrs.map((attribute) => writeAttribute(attribute, 0))].join(' ')}>`;
  if (indent.length + single.length <= lineLimit) return single;
  const lines = attrs.map((attribute) => `${indent}  ${writeAttribute(attribute, indent.length + 2)}`);
  return `<${tagName}\n${lines.join('\n')}>`;
}

/** Lists that may be broken into lines after their commas. */
const breakable = new Set(['srcset', 'sizes', 'imagesrcset', 'imagesizes']);

/** @param indent of the attribute, in characters; 0 for one line whatever its length */
function writeAttribute({ name, value }: { name: string; value: string }, indent: number): string {
  if (value === '' && name !== 'alt') return name;
  const single = `${name}="${escape(value)}"`;
  if (indent === 0 || indent + single.length <= lineLimit || !breakable.has(name)) return single;
  const entries = escape(value).split(/,\s+/);
  const margin = ' '.repeat(indent + 2);
  return `${name}="\n${entries.map((entry) => margin + entry).join(',\n')}"`;
}

function escape(value: string): string {
  return value.replaceAll('&', '&amp;').replaceAll('"', '&quot;');
}
