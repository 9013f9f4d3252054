import { placementsByPage } from '../core/checks/by-page.js';
import { blankWhileWaiting } from '../core/checks/blank-while-waiting.js';
import { thinOnNarrowScreens } from '../core/checks/thin-on-narrow-screens.js';
import { tinyFilesOf } from '../core/checks/many-tiny-files.js';
import type { Check, Facts } from '../core/checks/index.js';
import { findCrop, makeIconSheet, makePlaceholder } from '../images/index.js';
import type { AuditContext } from './context.js';

/** Shape of a crop for narrow screens. */
const cropRatio = 3 / 2;

type Offers = Pick<Facts, 'placeholders' | 'crops' | 'sheets'>;

/** Makes what fixes offer beside markup: placeholders, crops and icon sheets, for those images only whose findings need them. */
export async function makeOffers(context: AuditContext, facts: Facts): Promise<Offers> {
  const [placeholders, crops, sheets] = await Promise.all([
    forUrls(context, urlsOf(blankWhileWaiting, facts), (content) => makePlaceholder(content)),
    forUrls(context, urlsOf(thinOnNarrowScreens, facts), (content, url) => {
      const file = facts.files.get(url);
      if (!file) throw new Error('there is no such file');
      return findCrop(content, file, cropRatio);
    }),
    sheetsOf(context, facts),
  ]);
  return { placeholders, crops, sheets };
}

function urlsOf(check: Check, facts: Facts): string[] {
  const urls = check.find(facts).flatMap(({ screens }) => Object.values(screens).map(({ url }) => url));
  return [...new Set(urls)].filter((url) => typeof url === 'string').sort();
}

/** What does not decode has no offer; that it does not decode is told elsewhere. */
async function forUrls<Offer>(
  { site }: AuditContext,
  urls: readonly string[],
  make: (content: Buffer, url: string) => Promise<Offer>,
): Promise<Map<string, Offer>> {
  const made = await Promise.all(
    urls.map(async (url) => {
      const file = site.fileAt(url);
      if (file === undefined) return [];
      return site
        .read(file)
        .then((content) => make(content, url))
        .then((offer) => [[url, offer] as const])
        .catch(() => []);
    }),
  );
  return new Map(made.flat());
}

async function sheetsOf(context: AuditContext, facts: Facts): Promise<Offers['sheets']> {
  const sheets = new Map<string, Awaited<ReturnType<typeof makeIconSheet>>>();
  for (const [path, placements] of placementsByPage(facts.placements)) {
    const files = tinyFilesOf(placements, facts);
    if (files.length === 0) continue;
    const icons = await Promise.all(
      files.map(async ({ url, width, height }) => {
        const file = context.site.fileAt(url);
        return file === undefined ? [] : [{ url, width, height, content: await context.site.read(file) }];
      }),
    );
    const sheet = await makeIconSheet(icons.flat()).catch(() => undefined);
    if (sheet) sheets.set(path, sheet);
  }
  return sheets;
}
