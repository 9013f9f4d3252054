import '../core/wording/schema-words.js';
import type { Command } from 'commander';
import { array, number, string } from 'yup';
import type { ReportPictures, Run } from '../core/run/index.js';
import type { Proved } from '../report/html/report-view.js';
import { collect } from './collect.js';
import { UsageError } from './errors.js';
import type { Io } from './io.js';
import { writeTo } from './saved-run.js';

export const pictureSizes = ['none', 'small', 'full'] as const;
export type Pictures = (typeof pictureSizes)[number];

/** What every command takes that hands out a run. */
export const outputFields = {
  html: string(),
  pictures: string<Pictures>()
    .oneOf(pictureSizes, `--pictures must be one of ${pictureSizes.join(', ')}`)
    .default('small'),
  sarif: string(),
  junit: string(),
  markdown: string(),
  mostCharacters: number()
    .typeError('--most-characters must be a whole number from 500 to 1000000')
    .integer('--most-characters must be a whole number from 500 to 1000000')
    .min(500, '--most-characters must be a whole number from 500 to 1000000')
    .max(1_000_000, '--most-characters must be a whole number from 500 to 1000000')
    .default(60_000),
  csv: array().of(string().required()).default([]),
};

export interface OutputFlags {
  html?: string | undefined;
  pictures: Pictures;
  sarif?: string | undefined;
  junit?: string | undefined;
  markdown?: string | undefined;
  mostCharacters: number;
  csv: string[];
}

export function addOutputOptions(command: Command): Command {
  return command
    .option('--html <file>', 'write the report as one HTML page that needs nothing else')
    .option('--pictures <size>', 'pictures in the HTML page: none, small or full (small if left out)')
    .option('--sarif <file>', 'write the findings as SARIF 2.1.0, for code hosts and editors')
    .option('--junit <file>', 'write the findings as JUnit XML: a suite for each page, a case for each check')
    .option('--markdown <file>', 'write the report as Markdown, short enough for a review comment')
    .option(
      '--most-characters <number>',
      'with --markdown: the longest that the text may be (60000 if left out)',
    )
    .option(
      '--csv <table>',
      'write a table as CSV: fixes, placements, downloads or pages; to a file with fixes=FILE; may be given several times',
      collect,
    );
}

/** A run, with what a report of it shows beside it. */
export interface Subject {
  run: Readonly<Run>;
  pictures?: ReportPictures | undefined;
  /** What a mended copy proved. */
  proved?: Proved | undefined;
}

/** What is written of a run, and where: to standard output without a file. */
interface Order {
  what: string;
  file: string | undefined;
  write(subject: Subject): Promise<string>;
}

const target = (file: string) => (file === '-' ? undefined : file);

/**
 * What the flags ask for.
 * @throws {UsageError} for a table that there is not, and where several would run into one another
 */
export function ordersOf(flags: OutputFlags, printed: readonly string[] = []): Order[] {
  const orders: Order[] = [];
  const add = (what: string, file: string | undefined, write: Order['write']) => {
    if (file === '') throw new UsageError(`The ${what} needs the name of a file, or - for standard output.`);
    if (file !== undefined) orders.push({ what, file: target(file), write });
  };
  add('HTML page', flags.html, async ({ run, ...shown }) => {
    const { htmlReport } = await import('../report/html/html-report.js');
    return htmlReport(run, shown);
  });
  add('SARIF file', flags.sarif, async ({ run }) => (await import('../report/sarif.js')).runAsSarif(run));
  add('JUnit file', flags.junit, async ({ run }) => (await import('../report/junit.js')).runAsJunit(run));
  add('Markdown file', flags.markdown, async ({ run }) =>
    (await import('../report/markdown.js')).runAsMarkdown(run, flags.mostCharacters),
  );
  for (const given of flags.csv) {
    const [, name = '', file] = /^([^=]*)(?:=(.*))?$/s.exec(given) ?? [];
    const table = tables.find((each) => each === name);
    if (!table || file === '')
      throw new UsageError(
        `--csv must be one of ${tables.join(', ')}, or one with a file such as fixes=fixes.csv; got "${given}".`,
      );
    add(`table of ${table}`, file ?? '-', async ({ run }) =>
      (await import('../report/csv.js')).runAsCsv(run, table),
    );
  }
  const toOutput = [...printed, ...orders.filter(({ file }) => file === undefined).map(({ what }) => what)];
  if (toOutput.length > 1)
    throw new UsageError(
      `Only one can go to standard output, not the ${toOutput.join(' and the ')}: give the others files.`,
    );
  return orders;
}

const tables = ['fixes', 'placements', 'downloads', 'pages'] as const;

/** Whether a page with pictures is asked for. */
export const wantsPictures = ({ html, pictures }: OutputFlags) => html !== undefined && pictures !== 'none';

/**
 * Hands out what was ordered, and says where it lies.
 * @throws {UsageError} saying what could not be written where
 */
export async function handOutOrders(
  orders: readonly Order[],
  subject: Subject,
  { out, err }: Io,
): Promise<void> {
  for (const { what, file, write } of orders) {
    const text = await write(subject);
    if (file === undefined) {
      out.write(text);
      continue;
    }
    await writeTo(file, text, what);
    err.write(`The ${what} is written to ${file}.\n`);
  }
}
