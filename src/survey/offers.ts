import type { OfferWish } from '../core/judging/check.js';
import type { Facts, World } from '../core/judging/facts.js';
import type { Crop, OfferedCrop, Placeholder } from '../core/run/index.js';
import { cropFiles, cropOrder, cutOut, findCrop, makeIconSheet, makePlaceholder } from '../images/index.js';
import type { AuditContext } from './context.js';

/** Shape of a crop for narrow screens. */
const cropRatio = 3 / 2;

type Offers = Pick<World, 'placeholders' | 'crops' | 'sheets'>;

/** Makes what fixes offer beside markup: placeholders, crops and icon sheets, for those images only whose findings need them. */
export async function makeOffers(context: AuditContext, facts: Facts): Promise<Offers> {
  const wishes = context.stages.checks.flatMap((check) => check.wants(facts));
  const [placeholders, crops, sheets] = await Promise.all([
    forUrls(context, placeholdersOf(wishes), (file) =>
      context.images.once(file, 'placeholder', isPlaceholder, makePlaceholder),
    ),
    cropsOf(context, wishes, facts),
    sheetsOf(context, wishes),
  ]);
  return { placeholders, crops, sheets };
}

function isPlaceholder(value: unknown): value is Placeholder {
  const { colour, gradient } = (value ?? {}) as Partial<Placeholder>;
  return typeof colour === 'string' && typeof gradient === 'string';
}

function isCrop(value: unknown): value is Crop {
  const { x, of } = (value ?? {}) as Partial<Crop>;
  return typeof x === 'number' && of !== undefined;
}

const placeholdersOf = (wishes: readonly OfferWish[]): string[] =>
  [...new Set(wishes.flatMap((wish) => (wish.kind === 'placeholder' ? [wish.url] : [])))].sort();

/** Crops, and what they weigh where they are to be written into tags. */
function cropsOf(
  context: AuditContext,
  wishes: readonly OfferWish[],
  { files, wishes: { crops: measured, formats } }: Facts,
): Promise<Offers['crops']> {
  const widths = new Map(wishes.flatMap((wish) => (wish.kind === 'crop' ? [[wish.url, wish.widths]] : [])));
  return forUrls(context, [...widths.keys()], async (name, url): Promise<OfferedCrop> => {
    const file = files.get(url);
    if (!file) throw new Error('there is no such file');
    const crop = await context.images.once(name, ['crop', cropRatio], isCrop, (content) =>
      findCrop(content, file, cropRatio),
    );
    if (!measured) return { ...crop, files: [] };
    const { looks } = context.options;
    const order = cropOrder(file, crop, { widths: widths.get(url) ?? [], looks, formats });
    const prices = await context.images.measureContent(
      `${file.hash} ${JSON.stringify(crop)}`,
      order,
      async () => cutOut(await context.site.read(name), crop),
    );
    return { ...crop, files: cropFiles(prices, order) };
  });
}

/** What does not decode has no offer; that it does not decode is told elsewhere. */
async function forUrls<Offer>(
  { site }: AuditContext,
  urls: readonly string[],
  make: (file: string, url: string) => Promise<Offer>,
): Promise<Map<string, Offer>> {
  const made = await Promise.all(
    urls.map(async (url) => {
      const file = site.fileAt(url);
      if (file === undefined) return [];
      return make(file, url)
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
        const content = file === undefined ? undefined : await site.read(file).catch(() => undefined);
        return content ? [{ url, width, height, content }] : [];
      }),
    );
    const sheet = await makeIconSheet(icons.flat()).catch(() => undefined);
    if (sheet) sheets.set(wish.page, sheet);
  }
  return sheets;
}
