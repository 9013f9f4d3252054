import { elementsWithin, type HtmlElement, type ParsedPage } from './walk-html.js';

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
export function findSourceElements({ html, document }: ParsedPage): SourceElement[] {
  const found: SourceElement[] = [];
  for (const { element, picture } of elementsWithin(document)) {
    const described = describe(element, picture, html);
    if (described) found.push(described);
  }
  return found;
}

function describe(
  element: HtmlElement,
  picture: HtmlElement | undefined,
  html: string,
): SourceElement | undefined {
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
