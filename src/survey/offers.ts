import { checks } from '../core/checks/index.js';
import type { OfferWish } from '../core/judging/check.js';
import type { Facts, World } from '../core/judging/facts.js';
import { findCrop, makeIconSheet, makePlaceholder } from '../images/index.js';
import type { AuditContext } from './context.js';

/** Shape of a crop for narrow screens. */
const cropRatio = 3 / 2;

type Offers = Pick<World, 'placeholders' | 'crops' | 'sheets'>;

/** Makes what fixes offer beside markup: placeholders, crops and icon sheets, for those images only whose findings need them. */
export async function makeOffers(context: AuditContext, facts: Facts): Promise<Offers> {
  const wishes = checks.flatMap((check) => check.wants(facts));
  const [placeholders, crops, sheets] = await Promise.all([
    forUrls(context, urlsOf(wishes, 'placeholder'), (content) => makePlaceholder(content)),
    forUrls(context, urlsOf(wishes, 'crop'), (content, url) => {
      const file = facts.files.get(url);
      if (!file) throw new Error('there is no such file');
      return findCrop(content, file, cropRatio);
    }),
    sheetsOf(context, wishes),
  ]);
  return { placeholders, crops, sheets };
}

function urlsOf(wishes: readonly OfferWish[], kind: 'placeholder' | 'crop'): string[] {
  return [...new Set(wishes.flatMap((wish) => (wish.kind === kind ? [wish.url] : [])))].sort();
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

async function sheetsOf({ site }: AuditContext, wishes: readonly OfferWish[]): Promise<Offers['sheets']> {
  const sheets = new Map<string, Awaited<ReturnType<typeof makeIconSheet>>>();
  for (const wish of wishes) {
    if (wish.kind !== 'sheet') continue;
    const icons = await Promise.all(
      wish.files.map(async ({ url, width, height }) => {
        const file = site.fileAt(url);
        return file === undefined ? [] : [{ url, width, height, content: await site.read(file) }];
      }),
    );
    const sheet = await makeIconSheet(icons.flat()).catch(() => undefined);
    if (sheet) sheets.set(wish.page, sheet);
  }
  return sheets;
}
