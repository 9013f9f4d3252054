import { readReferences, type Quote } from '../core/markup/quoted-value.js';
import { offsetOf } from '../core/mending/places.js';
import { elementsWithin, parsePage, type HtmlElement, type ParsedPage } from './walk-html.js';

/** An element of a page's file that may show an image. */
export interface SourceElement {
  tag: string;
  /** Attributes in source order. */
  attributes: [string, string][];
  line: number;
  column: number;
  /** The element as written; of an `img` in a `picture`, the whole picture. */
  markup: string;
  /** Of what stands in the attribute `srcdoc` of a frame: the quotes of its value. */
  quote?: Quote;
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

/** Finds the elements that may show an image in the documents that frames carry in `srcdoc`, with their places in the page's own text. */
export function findSrcdocElements({ html, document }: ParsedPage): SourceElement[] {
  const found: SourceElement[] = [];
  for (const { element } of elementsWithin(document)) {
    const place = element.tagName === 'iframe' ? element.sourceCodeLocation?.attrs?.['srcdoc'] : undefined;
    if (place) found.push(...withinValue(html, place.startOffset, place.endOffset));
  }
  return found;
}

function withinValue(html: string, startOffset: number, endOffset: number): SourceElement[] {
  const [whole, quote] = /^[^=]*=\s*(["'])/.exec(html.slice(startOffset, endOffset)) ?? [];
  if (whole === undefined || (quote !== '"' && quote !== "'")) return [];
  const from = startOffset + whole.length;
  const { text, offsets } = readReferences(html.slice(from, endOffset - 1));
  return findSourceElements(parsePage(text)).map((element) => ({
    ...element,
    ...placeAt(html, from + (offsets[offsetOf(text, element)] ?? 0)),
    quote,
  }));
}

/** Lines and columns begin at 1. */
function placeAt(text: string, offset: number): Pick<SourceElement, 'line' | 'column'> {
  const lines = text.slice(0, offset).split('\n');
  return { line: lines.length, column: (lines.at(-1) ?? '').length + 1 };
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
