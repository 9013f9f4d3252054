import { stringify } from 'csv-stringify/sync';
import type { FixPlace, Run, SourcePosition } from '../core/run/index.js';
import { plainText } from './plain-text.js';

type Cell = string | number | null;
/** A table: the names of its columns, and what stands in each row. */
type Table = (run: Readonly<Run>) => { columns: string[]; rows: Cell[][] };

/**
 * One table of a run as CSV, with a line of names. Nothing that a page says is a formula to a spreadsheet, or more than one line.
 * RFC 4180; bytes are those of the encoded body, lengths CSS px, shares and weights 0 to 1.
 */
export function runAsCsv(run: Readonly<Run>, name: CsvTable): string {
  const { columns, rows } = tables[name](run);
  const cells = [columns, ...rows].map((row) =>
    row.map((cell) => (typeof cell === 'string' ? plainText(cell) : cell)),
  );
  return stringify(cells, { record_delimiter: 'windows', escape_formulas: true });
}

const fixes: Table = ({ fixes: all, screens }) => ({
  columns: [
    ...[
      'rank',
      'id',
      'title',
      'kind',
      'checks',
      'saves',
      'saves in the first view',
      'saves scrolled to the end',
    ],
    ...['unsure by', 'saves alone', ...screens.map((screen) => `saves on ${screen.name}`), 'shift', 'sure'],
    ...['pages', 'places', 'files to make', 'first place'],
  ],
  rows: all.map((fix, index) => [
    ...[index + 1, fix.id, fix.title, fix.kind, fix.checks.join(' ')],
    ...[fix.saves.expected, fix.saves.firstView, fix.saves.whole, fix.saves.unsure, fix.alone.expected],
    ...screens.map((screen) => fix.saves.screens[screen.name] ?? 0),
    ...[fix.shift, fix.sureness, fix.pages.length, fix.places.length, fix.files.length],
    fix.places[0] ? placeOf(fix.places[0]) : null,
  ]),
});

const placements: Table = ({ placements: all, findings, screens }) => {
  const checks = new Map<string, Set<string>>();
  for (const { placement, check } of findings)
    checks.set(placement, (checks.get(placement) ?? new Set()).add(check));
  return {
    columns: [
      ...['placement', 'page', 'kind', 'place', 'selector', 'text alternative', 'checks'],
      ...screens.flatMap(({ name }) =>
        ['slot width', 'slot height', 'takes', 'bytes', 'began'].map((what) => `${what} on ${name}`),
      ),
    ],
    rows: all.map(({ id, page, kind, source, selector, alt, slots, downloads }) => [
      ...[
        id,
        page,
        kind,
        source ? positionOf(source) : null,
        selector,
        alt,
        [...(checks.get(id) ?? [])].join(' '),
      ],
      ...screens.flatMap(({ name }) => {
        const [slot, download] = [slots[name], downloads[name]];
        return [
          slot?.width ?? null,
          slot?.height ?? null,
          download?.url ?? null,
          download?.bytes ?? null,
          download?.began ?? null,
        ];
      }),
    ]),
  };
};

const downloads: Table = ({ pages: all }) => ({
  columns: ['page', 'screen', 'address', 'type', 'bytes', 'status', 'began', 'scrolled to', 'failure'],
  rows: all.flatMap(({ path, visits }) =>
    visits.flatMap(({ screen, downloads: own }) =>
      own.map(({ url, type, bytes, status, began, scrollDepth, failure }) => [
        ...[path, screen, url, type, bytes, status, began, scrollDepth],
        failure ?? null,
      ]),
    ),
  ),
});

const pages: Table = ({ pages: all }) => ({
  columns: [
    ...[
      'page',
      'file',
      'share of visits',
      'screen',
      'seen',
      'downloads in the first view',
      'bytes in the first view',
    ],
    ...['downloads', 'bytes', 'bytes of all kinds', 'shift', 'document height'],
  ],
  rows: all.flatMap(({ path, file, weight, visits }) =>
    visits.map(({ screen, state, firstView, whole, allBytes, shift, documentHeight }) => [
      ...[path, file, weight, screen, state, firstView.downloads, firstView.bytes],
      ...[whole.downloads, whole.bytes, allBytes, shift.score, documentHeight],
    ]),
  ),
});

const tables = { fixes, placements, downloads, pages };
export type CsvTable = keyof typeof tables;
export const csvTables = Object.keys(tables) as CsvTable[];

const positionOf = ({ file, line, column }: SourcePosition) => `${file}:${line}:${column}`;

const placeOf = ({ source, page, selector }: FixPlace) =>
  source ? positionOf(source) : `${page} ${selector}`;
