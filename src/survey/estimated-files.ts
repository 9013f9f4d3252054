import { PriceList } from '../core/bytes/price-list.js';
import { writeFixes } from '../core/judging/fixes.js';
import type { World } from '../core/judging/facts.js';
import { judge } from '../core/judging/judge.js';
import { estimatedPictures, joinPrices, type EstimatedPicture } from '../core/pricing/estimated-files.js';
import type { WantedPrice } from '../core/pricing/pricing-plan.js';
import type { PicturePrice } from '../core/run/index.js';
import { measureOrder } from '../images/index.js';
import type { AuditContext } from './context.js';
import type { JudgedMemory } from './judged-memory.js';
import { formatsFor } from './formats-for.js';

/** What is measured anew may change what the fixes make. */
const mostRounds = 2;

/**
 * Encodes the files that fixes make wherever their bytes are estimates so far: what a fix promises is what its files weigh. Of pictures
 * that were not measured nothing is.
 * @param prices get what is measured
 */
export async function measureEstimates(
  context: AuditContext,
  world: World,
  prices: Map<string, PicturePrice>,
  { memory, affords }: { memory: JudgedMemory; affords: Affords },
): Promise<void> {
  for (let round = 0; round < mostRounds && !context.interrupted; round++) {
    const estimates = await memory.remember(['estimates'], prices, isList, () =>
      context.faults.attempt('ranking', { page: '' }, () => estimatesOf(context, world, prices)),
    );
    if (!estimates || estimates.length === 0) return;
    const affordable = estimates.filter((each) => isAffordable(each, world, affords));
    await Promise.all(affordable.map((each) => measureOne(context, world, prices, each)));
  }
}

/** Whether the work that a user allows is enough for one more picture; what is asked is counted. */
type Affords = (cost: Pick<WantedPrice, 'file' | 'widths'>) => boolean;

function isAffordable(
  { url, widths, settings }: EstimatedPicture,
  { files }: World,
  affords: Affords,
): boolean {
  const file = files.get(url);
  const make = [...widths, ...settings.map(({ width }) => width)];
  return file !== undefined && affords({ file, widths: { make, have: [] } });
}

const isList = (value: unknown): value is EstimatedPicture[] => Array.isArray(value);

function estimatesOf(
  { stages, hosts }: AuditContext,
  world: World,
  prices: ReadonlyMap<string, PicturePrice>,
): EstimatedPicture[] {
  const known = { ...world, prices: new PriceList(prices, world.files) };
  const { fixes } = writeFixes(judge(stages.checks, known));
  // A host was asked for the very widths that are proposed.
  return estimatedPictures(fixes, prices, world.files).filter(({ url }) => !hosts.at(url));
}

async function measureOne(
  { images, options: { looks, wishes } }: AuditContext,
  { files }: World,
  prices: Map<string, PicturePrice>,
  { url, widths, settings }: EstimatedPicture,
): Promise<void> {
  const [file, known] = [files.get(url), prices.get(url)];
  if (!file || !known) return;
  const order = measureOrder(file, {
    widths,
    settings,
    looks,
    formats: formatsFor(file, wishes.formats),
    drawings: wishes.formats,
    resizedQuality: known.alike.find(({ quality }) => quality !== null)?.quality ?? undefined,
  });
  // It was encoded at other widths: what fails now stays an estimate, and is told as one.
  const more = await images.measure(file, order).catch(() => undefined);
  if (more) prices.set(url, joinPrices(known, more));
}
