import { planProbes } from '../core/bytes/probe-plan.js';
import { PriceList } from '../core/bytes/price-list.js';
import { isEconomical, wantedPrices, type WantedPrice } from '../core/bytes/pricing-plan.js';
import { isSettled } from '../core/bytes/settled.js';
import type { Facts } from '../core/checks/index.js';
import type { ImageFile, Incomplete, PicturePrice } from '../core/run/index.js';
import type { MeasureOrder } from '../images/index.js';
import type { AuditContext } from './context.js';

export interface Prices {
  /** By URL. */
  prices: Map<string, PicturePrice>;
  /** Pictures of which nothing was encoded, because it cannot change the ranking of the first fixes or the limit was reached. */
  left: number;
  incomplete: Incomplete[];
}

/** Fixes whose order must be that of measuring everything. */
const settledFixes = 20;
/** Pictures of the first round; later rounds grow. */
const firstRound = 12;

/**
 * Measures what pictures weigh, those with the most bytes at stake first, until the order of the first fixes cannot change.
 * @param facts without prices; `judge` is asked with those measured so far
 */
export async function price(context: AuditContext, facts: Facts): Promise<Prices> {
  const { encode, encodeLimitMs } = context.options;
  const wanted = encode === 'none' ? [] : wantedPrices(facts);
  const result: Prices = { prices: new Map(), left: 0, incomplete: [] };
  context.progress.begin('pictures', wanted.length);
  let spentMs = 0;
  for (let start = 0, size = firstRound; start < wanted.length; start += size, size *= 2) {
    const round = wanted.slice(start, start + size);
    const affordable: WantedPrice[] = [];
    for (const want of round) {
      spentMs += costMs(want);
      if (encodeLimitMs === undefined || spentMs <= encodeLimitMs) affordable.push(want);
    }
    await Promise.all(affordable.map((want) => measureOne(context, want, facts, result)));
    result.left += round.length - affordable.length;
    const rest = wanted.slice(start + size);
    const known = { ...facts, prices: new PriceList(result.prices, facts.files, false) };
    if (encode === 'enough' && rest.length > 0 && isSettled(known, rest, settledFixes)) {
      result.left += rest.length;
      break;
    }
  }
  return result;
}

async function measureOne(
  context: AuditContext,
  want: WantedPrice,
  facts: Facts,
  result: Prices,
): Promise<void> {
  const { images, progress, options } = context;
  const { file, widths } = want;
  try {
    const glance = await glanceAt(context, want, facts);
    if (glance === 'economical') return;
    const order = orderFor(
      file,
      options.wishes.formats,
      planProbes(file, widths, options.encode === 'all'),
      options.looks,
    );
    result.prices.set(file.url, await images.measure(file, order));
  } catch (cause) {
    const why = cause instanceof Error ? cause.message : String(cause);
    const page = facts.placements.find(({ candidates }) => candidates.includes(file.url))?.page ?? '';
    result.incomplete.push({
      page,
      screen: null,
      why: `${file.url} cannot be encoded, so it has no price: ${why}`,
    });
  } finally {
    progress.step();
  }
}

/** A file in the newest format that needs no other width is worth one small encode first: mostly it ends there. */
async function glanceAt(
  { images, options }: AuditContext,
  { file, widths }: WantedPrice,
  facts: Facts,
): Promise<'economical' | 'unknown'> {
  const [newest] = options.wishes.formats;
  const delivered = deliveredOf(file, facts);
  if (file.format !== newest || file.lossless || widths.make.length > 0 || delivered.length === 0)
    return 'unknown';
  const width = Math.max(16, Math.round(file.width / 2));
  const { formats } = await images.measure(file, orderFor(file, [], [width], options.looks));
  const point = formats[file.format]?.[0];
  const { trifleShare } = facts.wishes.trifles;
  return point && delivered.every((each) => isEconomical(each, point, trifleShare))
    ? 'economical'
    : 'unknown';
}

/** The files that are delivered where this one is the best source. */
function deliveredOf(file: ImageFile, facts: Facts): ImageFile[] {
  const urls = facts.placements
    .filter(({ candidates }) => candidates.includes(file.url))
    .flatMap(({ downloads }) => Object.values(downloads).map(({ url }) => url));
  return [...new Set(urls)].flatMap((url) => facts.files.get(url) ?? []);
}

function orderFor(
  file: ImageFile,
  wished: readonly string[],
  widths: readonly number[],
  looks: number,
): MeasureOrder {
  const { format, width, height, frames, quality, lossless, palette, alpha } = file;
  const transparent = alpha === 'used';
  // The fallback of a losslessly stored photograph is a JPEG, unless it is transparent.
  const fallback = lossless && format !== 'svg' && format !== 'gif' ? [transparent ? 'webp' : 'jpeg'] : [];
  const newer = wished.includes(format) ? wished.slice(0, wished.indexOf(format)) : wished;
  const drawn = wished.filter((each) => each === 'webp');
  return {
    format,
    width,
    height,
    frames,
    quality,
    lossless,
    palette,
    alpha: transparent,
    looks,
    widths,
    formats: [...new Set([...newer.slice(0, 1), ...fallback])].sort(),
    drawingFormats: drawn,
  };
}

/** What a measurement costs on an ordinary processor, ms: so that a limit in seconds gives the same run everywhere. */
function costMs({ file, widths }: WantedPrice): number {
  const pixels = planProbes(file, widths).reduce(
    (sum, width) => sum + (width * width * file.height) / Math.max(1, file.width),
    0,
  );
  return 20 + (file.width * file.height * 40 + pixels * 1300) / 1_000_000;
}
