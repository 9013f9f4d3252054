import { groupBy } from '../../core/grouping.js';
import type { Download, ImageFile, Screen } from '../../core/run/index.js';
import type { SizedImage } from '../../core/templates/box-rules.js';
import type { SeenStart } from '../../core/templates/lazy-start.js';
import type { OutlinedImage } from '../../core/templates/outline.js';
import { isLazy } from '../offered-images.js';
import type { SiteUrls } from '../site-urls.js';
import type { VisitSummary } from '../visit-summary.js';
import type { ObservedElement } from '../observed-elements.js';
import { pickIn, sizedBy, type ElementPick } from './element-pick.js';
import type { PageFile } from './page-file.js';

/** What can be asked of the site's files. */
export interface FileKnowledge {
  urls: SiteUrls;
  fileOf(url: string): ImageFile | undefined;
  /** What a download of it brings; undefined where only a visit can tell. */
  transferOf(url: string): Pick<Download, 'bytes' | 'type' | 'status'> | undefined;
}

/** A page of the template that was visited, on one screen. */
export interface SeenLook {
  page: PageFile;
  summary: VisitSummary;
}

/** The three times at which a box is looked at. */
export const moments = ['whileWaiting', 'beforeScroll', 'slot'] as const;
export type Moment = (typeof moments)[number];

/** Why something cannot be read, in a user's words. */
export class NotReadable extends Error {}

/** An element of a page that was visited, as its file has it and as it was seen. */
export interface SeenElement {
  outlined: OutlinedImage;
  pick: ElementPick;
  sized: SizedImage;
  observed: ObservedElement;
  /** Undefined where it caused no download. */
  began: Pick<Download, 'began' | 'scrollDepth'> | undefined;
}

/** A page that was visited, on one screen, to learn from. */
export interface Sample extends SeenLook {
  elements: SeenElement[];
  /** For each of them the heights of the images before it together, CSS px; of all of them at the end. */
  heights: Record<Moment, number[]>;
  /** What styles show. */
  styled: ObservedElement[];
  /** Downloads that no element of the file explains. */
  rest: Download[];
}

/** When lazy images of a page began: a file that several images show begins with the first of them. */
export function startsOf(elements: readonly SeenElement[]): SeenStart[] {
  return [...groupBy(elements, ({ pick }) => pick.url).values()].flatMap((same) => {
    const [first] = [...same].sort((a, b) => (a.observed.slot?.y ?? 0) - (b.observed.slot?.y ?? 0));
    const slot = first?.observed.slot;
    return first?.began && slot && same.every(({ outlined }) => isLazy(outlined))
      ? [{ y: slot.y, began: first.began.began, scrollDepth: first.began.scrollDepth }]
      : [];
  });
}

/** @throws {NotReadable} when what was seen is not what the file says */
export function sampleOf({ page, summary }: SeenLook, screen: Screen, files: FileKnowledge): Sample {
  const own = summary.observed.filter(({ kind }) => kind !== 'css-image');
  const { images } = page.outline;
  const isSame =
    own.length === images.length &&
    own.every((element, index) => {
      const written = images[index];
      return written !== undefined && isWritten(element, written);
    });
  if (!isSame) throw new NotReadable('scripts change its images');
  if (summary.viewport && summary.viewport.width !== screen.width)
    throw new NotReadable('its pages are laid out for another width than the screen’s');
  if (summary.observed.some(({ frame }) => frame)) throw new NotReadable('images stand in frames');
  const started = new Map<string, Download>();
  for (const download of [...summary.visit.downloads].sort(byStart))
    if (!started.has(download.url)) started.set(download.url, download);
  const elements = own.map((observed, index): SeenElement => {
    const outlined = images[index] as OutlinedImage;
    const autoWidth = observed.slot ? { autoWidth: observed.slot.width } : {};
    const pick = pickIn(outlined, { screen, baseUrl: page.baseUrl, urls: files.urls, ...autoWidth });
    const file = pick.url === null ? undefined : files.fileOf(pick.url);
    const download = pick.url === null ? undefined : started.get(pick.url);
    return { outlined, pick, sized: sizedBy(pick, file), observed, began: download };
  });
  const explained = new Set(elements.map(({ pick }) => pick.url));
  return {
    page,
    summary,
    elements,
    heights: summedHeights(own),
    styled: summary.observed.filter(({ kind }) => kind === 'css-image'),
    rest: summary.visit.downloads.filter(({ url }) => !explained.has(url)),
  };
}

/** Sums of the heights of images, each before the image that it stands for; the last is that of all. */
export function summedHeights(elements: readonly ObservedElement[]): Record<Moment, number[]> {
  const sums = (moment: Moment) => {
    let sum = 0;
    return [0, ...elements.map((element) => (sum += element[moment]?.height ?? 0))];
  };
  return { whileWaiting: sums('whileWaiting'), beforeScroll: sums('beforeScroll'), slot: sums('slot') };
}

const sortedText = (attributes: readonly (readonly [string, string])[]) =>
  JSON.stringify(attributes.map((each) => each.join('=')).sort());

const isWritten = (element: ObservedElement, { kind, tag, attributes, sources }: OutlinedImage) =>
  element.kind === kind &&
  element.tag === tag &&
  sortedText(element.attributes) === sortedText(attributes) &&
  element.sources.length === sources.length &&
  element.sources.every((source, index) => sortedText(source) === sortedText(sources[index] ?? []));

/** @throws {NotReadable} when pages differ in what their files do not say */
export function sameOnAll(samples: readonly Sample[]): void {
  const differ = (of: (sample: Sample) => unknown) =>
    new Set(samples.map((each) => JSON.stringify(of(each)))).size > 1;
  if (
    differ(({ styled }) =>
      styled.map(({ selector, style, addresses, rules }) => [selector, style, addresses, rules]),
    )
  )
    throw new NotReadable('styles show other images on each page');
  if (differ(({ rest }) => rest.map(({ url, began }) => [url, began])))
    throw new NotReadable('pages fetch images that no element of their files names');
  if (differ(({ summary }) => [[...summary.refused].sort(), summary.unlisted]))
    throw new NotReadable('pages ask other hosts for different things');
}

/** What begins first stands first. */
const order: readonly Download['began'][] = ['first-view', 'by-itself', 'scrolled'];

export const byStart = (a: Download, b: Download) =>
  order.indexOf(a.began) - order.indexOf(b.began) || a.scrollDepth - b.scrollDepth;
