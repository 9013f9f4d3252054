import { causeInWords } from '../core/wording/words.js';
import { planProbes, wantsOwnSize } from '../core/bytes/probe-plan.js';
import { PriceList } from '../core/bytes/price-list.js';
import { glanceWidths, isEconomical, wantedPrices, type WantedPrice } from '../core/pricing/pricing-plan.js';
import { isSettled } from '../core/pricing/settled.js';
import { factsOf, type Facts, type World } from '../core/judging/facts.js';
import { resizedQuality } from '../core/plan/resized-quality.js';
import type { Fix } from '../core/run/index.js';
import type { ImageFile, Incomplete, PicturePrice, PricingSummary } from '../core/run/index.js';
import { measureOrder } from '../images/index.js';
import type { AuditContext } from './context.js';
import { rankEarly } from './early-ranking.js';
import { measureEstimates } from './estimated-files.js';
import { formatsFor } from './formats-for.js';
import { JudgedMemory } from './judged-memory.js';

export interface Prices {
  /** By URL. */
  prices: Map<string, PicturePrice>;
  /** Pictures of which more than a trifle could be saved. */
  wanted: number;
  /** Pictures of which nothing was encoded, because it cannot change the ranking of the first fixes or the limit was reached. */
  left: number;
  limited: boolean;
  /** URLs of pictures that one encode has shown to be economical. */
  economical: string[];
  incomplete: Incomplete[];
}

/** Fixes whose order must be that of measuring everything. */
const settledFixes = 20;
/** Pictures of the first round; later rounds grow. */
const firstRound = 12;

/**
 * Measures what pictures weigh, those with the most bytes at stake first, until the order of the first fixes cannot change.
 * @param world without prices; the judge is asked with those measured so far
 */
export async function price(context: AuditContext, world: World): Promise<Prices> {
  const facts = factsOf(world);
  const { encode, encodeLimitMs } = context.options;
  const wanted = wantedPrices(facts);
  const result: Prices = {
    prices: new Map(),
    wanted: wanted.length,
    left: 0,
    limited: false,
    economical: [],
    incomplete: [],
  };
  if (encode === 'none') return { ...result, left: wanted.length };
  const judgedMemory = new JudgedMemory(context, world);
  const early = earlyRanking(context, world, result);
  early();
  context.progress.begin('pictures', wanted.length);
  let spentMs = 0;
  for (let start = 0, size = firstRound; start < wanted.length; start += size, size *= 2) {
    if (context.interrupted) {
      result.left += wanted.length - start;
      break;
    }
    const round = wanted.slice(start, start + size);
    const affordable: WantedPrice[] = [];
    for (const want of round) {
      spentMs += costMs(want);
      if (encodeLimitMs === undefined || spentMs <= encodeLimitMs) affordable.push(want);
    }
    await Promise.all(affordable.map((want) => measureOne(context, want, facts, result)));
    result.left += round.length - affordable.length;
    result.limited ||= affordable.length < round.length;
    const rest = wanted.slice(start + size);
    if (rest.length > 0) early();
    const known: World = { ...world, prices: new PriceList(result.prices, facts.files, false) };
    const judged = () =>
      facts.faults.attempt('ranking', { page: '' }, () => isSettled(known, rest, settledFixes));
    const left = rest.map(({ file, stake }) => [file.url, stake]);
    const settled = () => judgedMemory.remember(['settled', left], result.prices, isBoolean, judged);
    if (encode === 'enough' && rest.length > 0 && (await settled())) {
      result.left += rest.length;
      break;
    }
  }
  const affords = (cost: Pick<WantedPrice, 'file' | 'widths'>) =>
    encodeLimitMs === undefined || (spentMs += costMs(cost)) <= encodeLimitMs;
  await measureEstimates(context, world, result.prices, { memory: judgedMemory, affords });
  return result;
}

const isBoolean = (value: unknown): value is boolean => typeof value === 'boolean';

/** Work that only shows how far things are takes at most this share of the time. */
const showingShare = 0.1;

/** Tells how fixes rank by now, unless that was told so lately that it would take much of the time. */
function earlyRanking({ progress, stages }: AuditContext, world: World, { prices }: Prices): () => void {
  let notBefore = 0;
  return () => {
    const began = performance.now();
    if (!progress.ranking || began < notBefore) return;
    progress.ranking(rankEarly(stages.checks, { ...world, prices: new PriceList(prices, world.files) }));
    const now = performance.now();
    notBefore = now + (now - began) / showingShare;
  };
}

/** Tells how many pictures were encoded, and of how many that made nothing lighter. */
export function summarisePricing(
  { prices, wanted, left, limited, economical }: Prices,
  looks: number,
  fixes: readonly Fix[],
): PricingSummary {
  const lighter = new Set(fixes.flatMap(({ files }) => files.map(({ from }) => from)));
  const kept = [...prices.keys()].filter((url) => !lighter.has(url)).length;
  return {
    looks,
    worthPricing: wanted,
    encoded: prices.size + economical.length,
    economical: kept + economical.length,
    left,
    limited,
  };
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
    const host = context.hosts.at(file.url);
    const glance = host ? 'unknown' : await glanceAt(context, want, facts);
    if (glance === 'economical') {
      result.economical.push(file.url);
      return;
    }
    const { looks, wishes, encode } = options;
    const order = measureOrder(file, {
      // A host is asked for the very widths that are proposed.
      widths: host
        ? [...widths.make, ...widths.have, ...offeredWidths(file, facts)]
        : planProbes(file, widths, encode === 'all'),
      looks,
      formats: host && !context.hosts.choosesFormat(file.url) ? [] : formatsFor(file, wishes.formats),
      drawings: wishes.formats,
      ownSize: wantsOwnSize(file, widths),
      resizedQuality: resizedQuality(file, offeredBeside(file, facts), looks),
    });
    const price = host ? await images.measureAtHost(file, order, host) : await images.measure(file, order);
    result.prices.set(file.url, price);
  } catch (cause) {
    const why = causeInWords(cause);
    images.spoil(file.url, `it does not decode whole: ${why}`);
    const page = facts.placements.find(({ candidates }) => candidates.includes(file.url))?.page ?? '';
    result.incomplete.push({
      page,
      screen: null,
      why: `${file.url} cannot be encoded, so it has no price: ${why}`,
    });
  } finally {
    progress.step(want.file.url);
  }
}

/** A file in the newest format that needs no other width is worth an encode or two first: mostly it ends there. */
async function glanceAt(
  { images, options }: AuditContext,
  { file, widths }: WantedPrice,
  facts: Facts,
): Promise<'economical' | 'unknown'> {
  const [newest] = options.wishes.formats;
  const delivered = deliveredOf(file, facts);
  if (file.format !== newest || file.lossless || widths.make.length > 0 || delivered.length === 0)
    return 'unknown';
  const order = measureOrder(file, {
    widths: glanceWidths(
      file.width,
      delivered.map(({ width }) => width),
    ),
    looks: options.looks,
    formats: [],
    drawings: [],
  });
  const { formats } = await images.measure(file, order);
  const glances = formats[file.format] ?? [];
  const { trifleShare } = facts.wishes.trifles;
  return delivered.every((each) => isEconomical(each, glances, trifleShare)) ? 'economical' : 'unknown';
}

/** Widths that stand beside a file in markup: they may be written with another quality too. Device px, at most the file's own. */
function offeredWidths(file: ImageFile, facts: Facts): number[] {
  const widths = offeredBeside(file, facts).map(({ width }) => width);
  return [...new Set([file.width, ...widths])].filter((width) => width > 0 && width <= file.width);
}

/** The files that stand beside a file in markup. */
function offeredBeside({ url: own }: ImageFile, { placements, files }: Facts): ImageFile[] {
  const beside = placements.filter(({ candidates }) => candidates.includes(own));
  const urls = new Set(beside.flatMap(({ candidates }) => candidates));
  return [...urls].flatMap((url) => files.get(url) ?? []);
}

/** The files that are delivered where this one is the best source. */
function deliveredOf(file: ImageFile, facts: Facts): ImageFile[] {
  const urls = facts.placements
    .filter(({ candidates }) => candidates.includes(file.url))
    .flatMap(({ downloads }) => Object.values(downloads).map(({ url }) => url));
  return [...new Set(urls)].flatMap((url) => facts.files.get(url) ?? []);
}

/** What a measurement costs on an ordinary processor, ms: so that a limit in seconds gives the same run everywhere. */
function costMs({ file, widths }: Pick<WantedPrice, 'file' | 'widths'>): number {
  const pixels = planProbes(file, widths).reduce(
    (sum, width) => sum + (width * width * file.height) / Math.max(1, file.width),
    0,
  );
  return 20 + (file.width * file.height * 40 + pixels * 1300) / 1_000_000;
}
