import { groupBy } from '../core/grouping.js';
import { matchElements, type SourceElement } from '../site/index.js';
import type { ObservedElement } from './observed-elements.js';

/** The image elements of a file, in document order. */
export interface SourceDocument {
  file: string;
  elements: readonly SourceElement[];
  /** Content policies that hold for it, as serialized. */
  policies?: readonly string[];
}

/** Where an element stands in a file. */
export interface SourcePlace {
  file: string;
  element: SourceElement;
}

export interface Identified {
  element: ObservedElement;
  place: SourcePlace | null;
  /** The same for the same element on every screen. */
  key: string;
}

/** What only asks for a file, or shows it by style: it is there when the file was fetched. */
export const isLinked = ({ kind }: Pick<ObservedElement, 'kind'>) =>
  kind === 'css-image' || kind === 'preload' || kind === 'icon-link';

/**
 * Says of the elements that one visit saw which they are: an element of the page's file wherever scripts have moved it, else what is
 * written the same, counted in the order of the document. Its selector only tells where it stood in that visit.
 * @param documentOf the file behind an address of a frame, or behind the page itself
 */
export function identify(
  observed: readonly ObservedElement[],
  documentOf: (frameUrl: string | undefined) => SourceDocument | undefined,
): Identified[] {
  const places = new Map<ObservedElement, SourcePlace>();
  for (const own of groupBy(observed, documentOfElement).values()) {
    const document = documentOf(own[0]?.frame?.url);
    if (document) findPlaces(own, document, places);
  }
  const counts = new Map<string, number>();
  return observed.map((element) => {
    const place = places.get(element) ?? null;
    const written = place ? keyOfPlace(element, place) : keyOfMarkup(element);
    const count = (counts.get(written) ?? 0) + 1;
    counts.set(written, count);
    return { element, place, key: `${written} ${count}` };
  });
}

/** The frame that an element stands in, by the selector of its element; empty for the page itself. */
const frameOf = ({ frame, selector }: ObservedElement) =>
  frame ? selector.slice(0, selector.lastIndexOf(' >>> ')) : '';

/** The address of what stands in the attribute `srcdoc` of a frame. HTML, section 4.8.5 "The iframe element". */
export const srcdocAddress = 'about:srcdoc';

/** What is found in one text: documents in attributes are written one after the other in that of their page. */
const documentOfElement = (element: ObservedElement) =>
  element.frame?.url === srcdocAddress ? srcdocAddress : frameOf(element);

/** Elements of the page, then links: each kind stands in the order of the document. */
function findPlaces(
  observed: readonly ObservedElement[],
  { file, elements }: SourceDocument,
  places: Map<ObservedElement, SourcePlace>,
): void {
  const isLink = ({ tag }: { tag: string }) => tag === 'link';
  const pictures = observed.filter((element) => !isLinked(element));
  const links = observed.filter((element) => isLinked(element) && isLink(element));
  for (const [live, written] of [
    [pictures, elements.filter((element) => !isLink(element))],
    [links, elements.filter(isLink)],
  ] as const)
    matchElements(live, written).forEach((found, index) => {
      const element = live[index];
      if (element && found) places.set(element, { file, element: found });
    });
}

const keyOfPlace = (element: ObservedElement, { file, element: { line, column } }: SourcePlace) =>
  JSON.stringify([element.kind, frameOf(element), file, line, column]);

function keyOfMarkup(element: ObservedElement): string {
  const { kind, tag, selector, style, attributes } = element;
  // Styles name elements, not addresses: which file they show is another one on each screen.
  if (style) return JSON.stringify([kind, selector, style.property, style.layer]);
  const value = (name: string) => attributes.find(([each]) => each === name)?.[1] ?? '';
  return JSON.stringify([kind, frameOf(element), tag, ...['id', 'src', 'srcset', 'href', 'alt'].map(value)]);
}
