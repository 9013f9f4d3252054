import {
  environmentOf,
  mediaQueriesMatch,
  parseImage,
  parseMediaQueryList,
  sourceAttributes,
  type ParsedImage,
} from '../core/markup/index.js';
import type { Screen } from '../core/run/index.js';
import type { ObservedElement } from './observed-elements.js';

/** As much of an element as its file says of it too. */
type WrittenElement = Pick<ObservedElement, 'kind' | 'attributes' | 'sources'>;

/** Candidates as the element writes them now, which for a script's late change is not what the file says. */
export function parsedImage(element: WrittenElement): ParsedImage | undefined {
  if (element.kind !== 'img' && element.kind !== 'picture') return undefined;
  return parseImage({
    img: sourceAttributes(element.attributes),
    sources: element.sources.map(sourceAttributes),
  });
}

/** The candidates of a preload are those of an image. HTML standard, 4.2.4 "imagesrcset". */
export function preloadedImage({
  kind,
  attributes,
}: Pick<ObservedElement, 'kind' | 'attributes'>): ParsedImage | undefined {
  if (kind !== 'preload') return undefined;
  const value = (name: string) => attributes.find(([each]) => each === name)?.[1];
  const [srcset, sizes, src] = [value('imagesrcset'), value('imagesizes'), value('href')];
  return parseImage({
    img: {
      ...(srcset === undefined ? {} : { srcset }),
      ...(sizes === undefined ? {} : { sizes }),
      ...(src === undefined ? {} : { src }),
    },
    sources: [],
  });
}

/** The candidates that an element offers, or that a preload asks for on behalf of one. */
export const offeredImage = (element: WrittenElement): ParsedImage | undefined =>
  parsedImage(element) ?? preloadedImage(element);

/** Whether a screen is asked for at all: a link may be for others. */
export function isFor({ attributes }: Pick<WrittenElement, 'attributes'>, screen: Screen): boolean {
  const media = attributes.find(([name]) => name === 'media')?.[1];
  return media === undefined || mediaQueriesMatch(parseMediaQueryList(media), environmentOf(screen));
}

export const isLazy = ({ attributes }: Pick<WrittenElement, 'attributes'>): boolean =>
  attributes.some(([name, value]) => name === 'loading' && value.toLowerCase() === 'lazy');

/** The density at which a pick is laid out: 1 where its markup gives none. */
export const laidOutDensity = (density: number): number =>
  Number.isFinite(density) && density > 0 ? density : 1;
