import '../core/wording/schema-words.js';
import { causeInWords } from '../core/wording/words.js';
import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import type { Command } from 'commander';
import { parse } from 'csv-parse/sync';
import envPaths from 'env-paths';
import { boolean, number, string } from 'yup';
import { usualLooks } from '../core/bytes/probe-plan.js';
import { defaultTrifles } from '../core/bytes/trifles.js';
import { defaultReach, type ReachCurve } from '../core/layout/reach.js';
import type { AuditOptions } from '../survey/index.js';
import { UsageError } from './errors.js';

/** Newer formats that are proposed unless told otherwise, best first. */
export const defaultFormats = ['avif', 'webp'];

/** Options that say how bytes are priced, weighted and judged. */
export const priceFields = {
  formats: string().default(defaultFormats.join(',')),
  looks: number().integer().min(30).max(95).default(usualLooks).label('--looks'),
  encode: string().oneOf(['none', 'enough', 'all'], '--encode must be none, enough or all').default('enough'),
  encodeLimit: number().min(0).max(86_400).label('--encode-limit'),
  cache: boolean().default(true),
  fresh: boolean().default(false),
  trustTimes: boolean().default(true),
  everyPage: boolean().default(false),
  traffic: string(),
  reach: string(),
  returning: number().min(0).max(1).label('--returning'),
  trifleBytes: number().min(0).max(1e9).default(defaultTrifles.trifleBytes).label('--trifle-bytes'),
  trifleShare: number().min(0).max(1).default(defaultTrifles.trifleShare).label('--trifle-share'),
  keepCredits: boolean().default(false),
  crops: boolean().default(false),
  sharpness: number().min(1).max(8).label('--sharpness'),
};

export interface PriceFlags {
  formats: string;
  looks: number;
  encode: string;
  encodeLimit?: number | undefined;
  cache: boolean;
  fresh: boolean;
  trustTimes: boolean;
  everyPage: boolean;
  traffic?: string | undefined;
  reach?: string | undefined;
  returning?: number | undefined;
  trifleBytes: number;
  trifleShare: number;
  keepCredits: boolean;
  crops: boolean;
  sharpness?: number | undefined;
}

export function addPriceOptions(command: Command): Command {
  return command
    .option(
      '--formats <list>',
      'newer formats that the site may use, best first (avif,webp if left out; none for none)',
    )
    .option(
      '--looks <quality>',
      'JPEG quality that stands for equal looks: higher is stricter (73 if left out)',
    )
    .option(
      '--encode <amount>',
      'how many pictures are really encoded: none, enough (until the order of the first 20 fixes is settled; if left out) or all',
    )
    .option('--encode-limit <seconds>', 'stop encoding after about so much work; what is left is estimated')
    .option('--no-cache', 'neither use nor keep what was seen of pages and measured of pictures')
    .option('--fresh', 'look at every page anew, though nothing that it is made from has changed')
    .option(
      '--no-trust-times',
      'read every file to see whether it has changed, whatever its size and times say',
    )
    .option(
      '--every-page',
      'visit all pages of sites with 200 pages and more too, instead of reading what visits of their templates explain',
    )
    .option('--traffic <file>', 'CSV of path and visits: pages count by their visits instead of all alike')
    .option(
      '--reach <curve>',
      'share of visits that scroll so many screenfuls: 1=1,2=0.75,4=0.5,8=0.25,16=0.1 if left out',
    )
    .option('--returning <share>', 'share of visits that come back after a day (0.3 if left out)')
    .option('--trifle-bytes <bytes>', 'leave out what saves less on every screen (4000 if left out)')
    .option(
      '--trifle-share <share>',
      'leave out what saves less than this share of a file (0.15 if left out)',
    )
    .option(
      '--sharpness <density>',
      'density up to which pictures are to be sharp: 2 spares screens of 3 half the bytes (each screen’s own if left out)',
    )
    .option(
      '--crops',
      'write crops of pictures that are mere stripes on narrow screens into their tags, though nobody has looked at them',
    )
    .option('--keep-credits', 'leave names of author and licence in the files');
}

/** The folder in which measurements of pictures and what was seen of pages are kept. */
export const cacheFolder = () => join(envPaths('yukkuri', { suffix: '' }).cache, 'measured');

export function toPriceOptions(
  flags: PriceFlags,
): Pick<
  AuditOptions,
  | 'wishes'
  | 'reach'
  | 'returning'
  | 'traffic'
  | 'encode'
  | 'encodeLimitMs'
  | 'cacheFolder'
  | 'fresh'
  | 'trustTimes'
  | 'everyPage'
  | 'looks'
> {
  return {
    wishes: {
      formats: parseFormats(flags.formats),
      trifles: { trifleBytes: flags.trifleBytes, trifleShare: flags.trifleShare },
      keepCredits: flags.keepCredits,
      crops: flags.crops,
      sharpness: flags.sharpness ?? Number.POSITIVE_INFINITY,
    },
    looks: flags.looks,
    ...(flags.returning === undefined ? {} : { returning: flags.returning }),
    reach: flags.reach === undefined ? defaultReach : parseReach(flags.reach),
    ...(flags.traffic === undefined ? {} : { traffic: readTraffic(flags.traffic) }),
    encode: flags.encode as AuditOptions['encode'],
    ...(flags.encodeLimit === undefined ? {} : { encodeLimitMs: flags.encodeLimit * 1000 }),
    ...(flags.cache ? { cacheFolder: cacheFolder() } : {}),
    fresh: flags.fresh,
    trustTimes: flags.trustTimes,
    everyPage: flags.everyPage,
  };
}

/** @throws {UsageError} for a format that is not known */
export function parseFormats(text: string): string[] {
  const formats = text
    .toLowerCase()
    .split(',')
    .map((each) => each.trim())
    .filter((each) => each !== '' && each !== 'none');
  const strange = formats.find((each) => !defaultFormats.includes(each));
  if (strange !== undefined)
    throw new UsageError(
      `--formats knows avif and webp, not "${strange}". Write them with a comma between: avif,webp.`,
    );
  return [...new Set(formats)];
}

/** @throws {UsageError} for a curve that is no curve */
export function parseReach(text: string): ReachCurve {
  const points = text.split(',').map((part) => {
    const [viewports = NaN, share = NaN] = part.split('=').map(Number);
    return { viewports, share };
  });
  const wrong = points.find(
    ({ viewports, share }, index) =>
      !(viewports >= 1 && share >= 0 && share <= 1) ||
      (index > 0 &&
        (viewports <= (points[index - 1]?.viewports ?? 0) || share > (points[index - 1]?.share ?? 1))),
  );
  if (wrong || points.length === 0)
    throw new UsageError(
      `--reach must be screenfuls and shares, deeper ones behind and never rising, such as 1=1,2=0.75,4=0.5; got "${text}".`,
    );
  return points;
}

/**
 * Reads a CSV file of path and visits; a first line without a number is taken for a heading.
 * @throws {UsageError} naming file and line
 */
export function readTraffic(file: string): Map<string, number> {
  let rows: string[][];
  try {
    rows = parse(readFileSync(file), {
      bom: true,
      trim: true,
      skip_empty_lines: true,
      relax_column_count: true,
    });
  } catch (cause) {
    const why = causeInWords(cause);
    throw new UsageError(`The traffic file "${file}" cannot be read: ${why}`, { cause });
  }
  const traffic = new Map<string, number>();
  rows.forEach(([address = '', count = ''], index) => {
    const visits = Number(count);
    if (index === 0 && count !== '' && Number.isNaN(visits)) return;
    if (address === '' || count === '' || !(visits >= 0))
      throw new UsageError(
        `Line ${index + 1} of "${file}" must be a path and a number of visits, such as /huts/,1200; got "${[address, count].join(',')}".`,
      );
    const path = pathOf(address);
    traffic.set(path, (traffic.get(path) ?? 0) + visits);
  });
  return traffic;
}

/** Statistics name pages by path or by whole address, with queries. */
function pathOf(address: string): string {
  try {
    return new URL(address, 'http://localhost').pathname;
  } catch {
    return address;
  }
}
