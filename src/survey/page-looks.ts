import { causeInWords } from '../core/wording/words.js';
import { BrowserError, type PickOf } from '../browser/index.js';
import type { Incomplete, Screen, WithoutScript } from '../core/run/index.js';
import { readPixels } from '../images/index.js';
import type { Page } from '../site/index.js';
import type { AuditContext } from './context.js';
import type { LookWatch } from './page-memory.js';
import { pickOf } from './pick-of.js';
import { accessTo } from './access.js';
import { nothingSeen, summarise, type VisitSummary } from './visit-summary.js';

/** What was seen of a page, on every screen. */
export interface PageLooks {
  visits: { screen: Screen; summary: VisitSummary }[];
  withoutScript: Scriptless;
}

/** Visits a page on some screens. */
export const visitOn = (
  context: AuditContext,
  page: Page,
  screens: readonly Screen[],
): Promise<PageLooks['visits']> =>
  Promise.all(
    screens.map(async (screen) => {
      const first = await context.inBrowser(() => visitPage(context, page, screen));
      context.progress.step(page.path);
      const look = () => visitPage(context, page, screen);
      const summary = first.timedOut
        ? await context.inBrowser(() => context.secondLooks.better(first, look))
        : first;
      return { screen, summary };
    }),
  );

/** Visits a page on every screen. */
export async function lookAt(context: AuditContext, page: Page): Promise<PageLooks> {
  const visits = await visitOn(context, page, context.options.screens);
  const withoutScript =
    visits.some(({ summary }) => summary.scripted) && !context.interrupted
      ? await context.inBrowser(() => lookWithoutScript(context, page))
      : { seen: null, incomplete: [] };
  return { visits, withoutScript };
}

async function visitPage(context: AuditContext, page: Page, screen: Screen): Promise<VisitSummary> {
  if (context.interrupted)
    return { ...nothingSeen(screen.name, 'unseen'), incomplete: ['not visited: the audit was interrupted'] };
  const { site, browser, options, urls, stages, memory } = context;
  const order = {
    url: site.origin + page.path,
    screen,
    limitMs: options.pageLimitMs,
    pickOf: (...[element, baseUrl, viewport]: Parameters<PickOf>) =>
      pickOf(element, baseUrl, { ...screen, ...viewport }),
    ...(options.match === undefined ? {} : { match: options.match }),
  };
  try {
    const look = async (watch: LookWatch): Promise<VisitSummary> => {
      const sizeOf = (address: string) => sizeOfImage(context, address, watch);
      const access = accessTo(site, options, watch);
      const record = await stages.visit(browser, { ...order, ...access, sizeOf, watch });
      const held =
        record.heldView &&
        (await readPixels(record.heldView, record.waiting?.layoutViewport.width ?? screen.width).catch(
          () => undefined,
        ));
      const summary = summarise(record, { screen: screen.name, url: order.url, urls, heldView: held });
      return { ...summary, unlisted: [...watch.refused].sort() };
    };
    const conditions = {
      view: viewOf(screen),
      match: options.match ?? [],
      ...allowedBy(context),
    };
    const seen = await context.twice(
      () =>
        memory.remember(
          { what: 'visit', page: page.path, conditions },
          look,
          ({ incomplete, visit: { state } }) => incomplete.length === 0 && state !== 'unseen',
        ),
      (why) => ({ ...nothingSeen(screen.name, 'unseen'), incomplete: [why] }),
    );
    // It may have been seen by another run, in which the screen has another name.
    return context.texts.shareIn({ ...seen, visit: { ...seen.visit, screen: screen.name } });
  } catch (cause) {
    // Without a browser nothing is seen anywhere.
    if (cause instanceof BrowserError) throw cause;
    context.faults.note(`the visit on ${screen.name}`, { page: page.path }, cause);
    return nothingSeen(screen.name, 'unseen');
  }
}

/** Who may be asked, and what is done with pages first, where it is told: what was kept of before knows nothing of these. */
export function allowedBy({ site, options }: Pick<AuditContext, 'site' | 'options'>) {
  const { hosts = [] } = site.network ?? {};
  return {
    otherHosts: options.allowOtherHosts,
    ...(hosts.length > 0 ? { hosts: [...hosts].sort() } : {}),
    ...(options.prepare ? { prepare: options.prepare } : {}),
  };
}

/** What of a screen decides about what is seen on it. */
const viewOf = ({ width, height, density, touch }: Screen) => ({ width, height, density, touch });

export interface Scriptless {
  seen: WithoutScript | null;
  incomplete: Incomplete[];
}

/** What visitors without script get, on the screen with most visits: one look is enough, since script is there or not on all. */
async function lookWithoutScript(context: AuditContext, page: Page): Promise<Scriptless> {
  const { site, browser, options, urls } = context;
  const [screen] = [...options.screens].sort((a, b) => b.share - a.share);
  if (!screen) return { seen: null, incomplete: [] };
  const order = { url: site.origin + page.path, screen, limitMs: options.pageLimitMs };
  const failed = (why: string): Scriptless => ({
    seen: null,
    incomplete: [{ page: page.path, screen: screen.name, why: `without script: ${why}` }],
  });
  try {
    const look = async (watch: LookWatch): Promise<Scriptless> => {
      const fetched = await context.stages.visitWithoutScript(browser, {
        ...order,
        // Nothing is to be waited for or clicked on where no script runs.
        ...accessTo(site, { allowOtherHosts: options.allowOtherHosts }, watch),
        watch,
      });
      const shown = [...new Set(fetched.map((url) => urls.shorten(url)))].sort();
      return { seen: { urls: shown }, incomplete: [] };
    };
    const what = {
      what: 'without script',
      page: page.path,
      conditions: { view: viewOf(screen), ...allowedBy(context) },
    };
    return await context.twice<Scriptless>(() => context.memory.remember(what, look, () => true), failed);
  } catch (cause) {
    if (cause instanceof BrowserError) throw cause;
    return failed(causeInWords(cause));
  }
}

/** The size that an image of this site has, from its file. */
async function sizeOfImage({ urls, images }: AuditContext, address: string, watch: LookWatch) {
  if (urls.isOwn(address)) watch.onSized(address);
  const url = urls.shorten(address);
  await images.read([url]);
  const file = images.fileOf(url);
  return file && file.width > 0 ? { width: file.width, height: file.height } : undefined;
}
