import { parse, type DefaultTreeAdapterTypes } from 'parse5';

type Node = DefaultTreeAdapterTypes.Node;
type Element = DefaultTreeAdapterTypes.Element;

/** An element of a page's file that may show an image. */
export interface SourceElement {
  tag: string;
  /** Attributes in source order. */
  attributes: [string, string][];
  line: number;
  column: number;
  /** The element as written; of an `img` in a `picture`, the whole picture. */
  markup: string;
}

const imageTags = new Set(['img', 'input', 'image', 'video', 'object', 'embed', 'link']);

/** Finds the elements that may show an image, in document order, with their places. Lines and columns begin at 1. */
export function findSourceElements(html: string): SourceElement[] {
  const found: SourceElement[] = [];
  const visit = (node: Node, picture: Element | undefined): void => {
    if (isElement(node)) {
      const element = describe(node, picture, html);
      if (element) found.push(element);
    }
    const inner = isElement(node) && node.tagName === 'picture' ? node : picture;
    if ('childNodes' in node) for (const child of node.childNodes) visit(child, inner);
    if ('content' in node) visit(node.content, undefined);
  };
  visit(parse(html, { sourceCodeLocationInfo: true }), undefined);
  return found;
}

function isElement(node: Node): node is Element {
  return 'tagName' in node;
}

function describe(element: Element, picture: Element | undefined, html: string): SourceElement | undefined {
  const { tagName: tag, sourceCodeLocation: place } = element;
  if (!imageTags.has(tag) || !place) return undefined;
  const whole = (tag === 'img' ? picture?.sourceCodeLocation : undefined) ?? place;
  return {
    tag,
    attributes: element.attrs.map(({ name, value }) => [name, value]),
    line: place.startLine,
    column: place.startCol,
    markup: html.slice(whole.startOffset, whole.endOffset),
  };
}
