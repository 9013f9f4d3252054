import { causeInWords } from '../core/wording/words.js';
import { BrowserError } from '../browser/index.js';
import { candidateUrls } from '../core/markup/index.js';
import type { Incomplete, PageRecord, Placement, VisitRecord as SavedVisit } from '../core/run/index.js';
import {
  findConnects,
  findContentPolicies,
  findSourceElements,
  findSrcdocElements,
  parsePage,
  readText,
  type Page,
  type ParsedPage,
} from '../site/index.js';
import type { AuditContext } from './context.js';
import { parsedImage } from './offered-images.js';
import { lookAt, type PageLooks } from './page-looks.js';
import { protectionsOf } from './page-protections.js';
import { buildPlacements, refuseBoxless } from './placements.js';
import { readStylePlaces } from './style-places.js';
import { srcdocAddress, type SourceDocument } from './identity.js';
import { nothingSeen, type VisitSummary } from './visit-summary.js';

export interface SurveyedPage {
  record: PageRecord;
  placements: Placement[];
  /** Ids of the placements that each of the audit's selectors chose. */
  matched: ReadonlyMap<string, ReadonlySet<string>>;
  /** The page that it leads to instead of showing something itself. */
  leadsTo: string | undefined;
  refused: string[];
  unlisted: string[];
  incomplete: Incomplete[];
  /** How its elements are known again in another load. */
  known: KnownElements;
}

export interface KnownElements {
  byKey: ReadonlyMap<string, Placement>;
  /** Reads the files behind the page and its frames. */
  documents(): Promise<DocumentOf>;
}

/** The file behind an address of a frame, or behind the page itself. */
type DocumentOf = (frameUrl: string | undefined) => SourceDocument | undefined;

/** Visits a page on every screen and joins what was seen. A fault costs the page. */
export async function surveyPage(context: AuditContext, page: Page): Promise<SurveyedPage> {
  return guarded(context, page, async () => joinWhole(context, page, await lookAt(context, page)));
}

/** Joins what was seen of a page on every screen. A fault costs the page. */
export async function joinLooks(context: AuditContext, page: Page, looks: PageLooks): Promise<SurveyedPage> {
  return guarded(context, page, () => joinWhole(context, page, looks));
}

async function guarded(
  context: AuditContext,
  page: Page,
  survey: () => Promise<SurveyedPage>,
): Promise<SurveyedPage> {
  try {
    return await survey();
  } catch (cause) {
    if (cause instanceof BrowserError) throw cause;
    const nothing = nothingSurveyed(context, page);
    if (cause instanceof UnreadablePage)
      return { ...nothing, incomplete: [{ page: page.path, screen: null, why: cause.message }] };
    context.faults.note('reading the page', { page: page.path }, cause);
    return nothing;
  }
}

/** The page's file cannot be read, or not any more. */
class UnreadablePage extends Error {}

function cannotBeRead(cause: unknown): never {
  throw new UnreadablePage(`its file cannot be read: ${causeInWords(cause)}`, { cause });
}

function nothingSurveyed({ options, weights }: AuditContext, { path, file }: Page): SurveyedPage {
  return {
    record: {
      path,
      file,
      base: path,
      withoutScript: null,
      weight: weights.get(path) ?? 0,
      visits: options.screens.map(({ name }) => nothingSeen(name, 'unseen').visit),
    },
    placements: [],
    matched: new Map(),
    known: { byKey: new Map(), documents: () => Promise.resolve(() => undefined) },
    leadsTo: undefined,
    refused: [],
    unlisted: [],
    incomplete: [],
  };
}

async function joinWhole(
  context: AuditContext,
  page: Page,
  { visits, withoutScript }: PageLooks,
): Promise<SurveyedPage> {
  const { site, urls, images, options } = context;
  const parsed = parsePage(readText(await site.read(page.file).catch(cannotBeRead)));
  const base = urls.shorten(
    visits.find(({ summary }) => summary.baseUrl !== '')?.summary.baseUrl ?? page.path,
  );
  const connects = findConnects(parsed, new URL(base, site.origin).href);
  await images.read(visits.flatMap(({ summary }) => addressesIn(summary, context)));
  const styles = await readStylePlaces(
    context,
    visits.flatMap(({ summary }) => summary.sheets),
    { path: page.path, file: page.file, base, parsed },
  );
  const frames = [
    ...new Set(visits.flatMap(({ summary }) => summary.observed.flatMap(({ frame }) => frame?.url ?? []))),
  ];
  const documentOf = await documentsOf(context, page, parsed, frames);
  const stated = [undefined, ...frames].flatMap((frame) => documentOf(frame)?.policies ?? []);
  const own = { path: page.path, base: new URL(base, site.origin).href, parsed };
  const protections = await protectionsOf(context, own, [...new Set(stated)], frames);
  const sources = { documentOf, styles };
  const { placements, byKey, byNode } = buildPlacements(page, visits, sources, {
    urls,
    fileOf: images.fileOf,
    faults: context.faults,
  });
  if (protections.forbids?.includes('style-attributes')) refuseBoxless(placements);
  context.texts.shareIn(placements);
  const chosenBy = (selector: string) =>
    new Set(
      visits.flatMap(({ screen, summary }) =>
        (summary.matched.get(selector) ?? []).flatMap((node) => byNode.get(screen.name)?.get(node)?.id ?? []),
      ),
    );
  return {
    record: context.texts.shareIn({
      path: page.path,
      file: page.file,
      base,
      ...(connects.length > 0 ? { connects } : {}),
      ...protections,
      withoutScript: withoutScript.seen,
      weight: context.weights.get(page.path) ?? 0,
      visits: visits.map(({ screen, summary }) => withNames(summary, byNode.get(screen.name) ?? new Map())),
    }),
    placements,
    matched: new Map((options.match ?? []).map((selector) => [selector, chosenBy(selector)])),
    known: knownElements(context, page, byKey, frames),
    leadsTo: visits.flatMap(({ summary }) => summary.leadsTo ?? [])[0],
    refused: visits.flatMap(({ summary }) => summary.refused),
    unlisted: visits.flatMap(({ summary }) => summary.unlisted),
    incomplete: [
      ...withoutScript.incomplete,
      ...visits.flatMap(({ screen, summary }) =>
        summary.incomplete.map((why) => ({ page: page.path, screen: screen.name, why })),
      ),
    ],
  };
}

/** The visit as it goes into the run: elements are named as the placements name them, wherever they stood when their image came. */
function withNames(
  { visit: seen, released }: VisitSummary,
  byNode: ReadonlyMap<string, Placement>,
): SavedVisit {
  const nameOf = (selector: string) => byNode.get(released.get(selector) ?? '')?.selector ?? selector;
  const releases = seen.shift.releases.map((each) => ({ ...each, selectors: each.selectors.map(nameOf) }));
  return { ...seen, shift: { ...seen.shift, releases } };
}

/** The files behind a page and behind the frames of this site that it holds. */
async function documentsOf(
  { site, urls }: AuditContext,
  page: Page,
  parsed: ParsedPage,
  frameUrls: readonly string[],
): Promise<DocumentOf> {
  const documentIn = (file: string, text: ParsedPage): SourceDocument => ({
    file,
    elements: findSourceElements(text),
    policies: findContentPolicies(text),
  });
  const own = documentIn(page.file, parsed);
  const frames = new Map<string, SourceDocument>();
  if (frameUrls.includes(srcdocAddress))
    frames.set(srcdocAddress, { file: page.file, elements: findSrcdocElements(parsed) });
  for (const address of frameUrls) {
    const file = urls.isOwn(address) ? site.fileAt(urls.shorten(address)) : undefined;
    if (file === undefined) continue;
    const content = await site.read(file).catch(() => undefined);
    if (content) frames.set(address, documentIn(file, parsePage(readText(content))));
  }
  return (frameUrl) => (frameUrl === undefined ? own : frames.get(frameUrl));
}

/**
 * Pages are kept by thousands, and what their files say would take more room than all that was seen of them. Made apart from where pages are joined: a
 * function that is kept keeps all that the others beside it use.
 */
const knownElements = (
  context: AuditContext,
  page: Page,
  byKey: KnownElements['byKey'],
  frameUrls: readonly string[],
): KnownElements => ({ byKey, documents: () => documentsAgain(context, page, frameUrls) });

async function documentsAgain(
  context: AuditContext,
  page: Page,
  frameUrls: readonly string[],
): Promise<DocumentOf> {
  const parsed = parsePage(readText(await context.site.read(page.file).catch(cannotBeRead)));
  return documentsOf(context, page, parsed, frameUrls);
}

/** Every address of an image that the visit knew of, whether it was fetched or not. */
function addressesIn({ observed, visit: seen, baseUrl }: VisitSummary, { urls }: AuditContext): string[] {
  const offered = observed.flatMap((element) => {
    const image = parsedImage(element);
    const written = image ? candidateUrls(image) : [];
    const current = element.currentSrc === '' ? [] : [urls.shorten(element.currentSrc)];
    return [...written.map((url) => urls.resolve(url, baseUrl)), ...current];
  });
  return [...seen.downloads.map(({ url }) => url), ...offered];
}
