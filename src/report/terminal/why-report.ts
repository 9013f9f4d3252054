import { bytesInWords, group, pixels } from '../../core/wording/words.js';
import type { WhyReport, WhyRow } from '../../core/judging/why.js';
import { plainText } from '../plain-text.js';
import { TextPage, type TerminalStyle } from './layout.js';
import { ledgerChain } from './ledger-chain.js';
import { plainTable } from './plain-table.js';

/** Why each screen takes the file it takes: a table, and the chain from markup to file in words. */
export function whyReport(reports: readonly WhyReport[], style: TerminalStyle): string {
  const page = new TextPage(style);
  if (reports.length === 0)
    page.text('No image of the page matches. Try --match with a CSS selector, such as "main img".');
  for (const report of reports) {
    page.blank();
    oneImage(page, report);
  }
  return page.toString();
}

function oneImage(page: TextPage, { placement, rows, faults, ledger }: WhyReport): void {
  const { paint } = page;
  const { source, page: path, selector } = placement;
  page.text(
    paint.bold(
      plainText(source ? `${source.file}:${source.line}:${source.column}` : `${path} (made by a script)`),
    ),
  );
  page.text(paint.dim(plainText(selector)));
  page.raw(table(rows, page.columns).split('\n'));
  for (const row of joinAlike(rows.filter(({ visited }) => visited))) {
    page.text(chainInWords(row), 2, '- ');
    const older = row.explained?.olderBrowsers;
    if (older !== undefined)
      page.text(`Browsers that choose by the geometric mean take ${plainText(nameOf(older))} there.`, 2);
  }
  for (const entry of ledger)
    if (entry.cuts.some(({ expected }) => expected > 0))
      page.text(`${plainText(entry.screen)}: ${ledgerChain(entry)}`, 2, paint.green('↓ '));
  for (const fault of faults) page.text(paint.yellow(plainText(fault)), 2, '! ');
}

const columns = [
  'screen',
  'slot',
  'source size',
  'file',
  'density',
  'bytes',
  'px: file',
  'needed',
  'instead',
];

function table(rows: readonly WhyRow[], width: number): string {
  const narrow = width < 100;
  const wanted = columns.filter((name) => !narrow || (name !== 'density' && name !== 'px: file'));
  return plainTable(wanted, rows.map(cellsOf), (name) => name === 'screen' || name === 'file');
}

function cellsOf({
  screen,
  visited,
  slot,
  explained,
  url,
  file,
  needed,
  instead,
}: WhyRow): Record<string, string> {
  const pick = explained?.pick;
  return {
    screen: `${visited ? screen.name : 'swept'} ${screen.width} @${screen.density}`,
    slot: slot === undefined ? 'no box' : pixels(slot),
    'source size': pick?.sourceSize === undefined ? '–' : pixels(pick.sourceSize),
    file: url === undefined ? 'none' : plainText(nameOf(url)),
    density: pick ? `${Number.isFinite(pick.density) ? Number(pick.density.toFixed(2)) : '∞'}x` : '–',
    bytes: file ? bytesInWords(file.bytes) : '–',
    'px: file': file && file.width > 0 ? group(file.width) : '–',
    needed: needed === undefined ? '–' : group(needed),
    instead: instead ? `${group(instead.width)} px ${bytesInWords(instead.bytes)}` : '–',
  };
}

const nameOf = (url: string) => url.slice(url.lastIndexOf('/') + 1) || url;

/** Screens with the same pick for the same reason are told once. */
function joinAlike(rows: readonly WhyRow[]): (WhyRow & { names: string[] })[] {
  const groups = new Map<string, WhyRow & { names: string[] }>();
  for (const row of rows) {
    const key = JSON.stringify([
      row.url,
      row.explained?.because,
      row.explained?.rule,
      row.explained?.olderBrowsers,
    ]);
    const found = groups.get(key);
    const name = `${row.visited ? row.screen.name : `${row.screen.width} @${row.screen.density}`}`;
    if (found) found.names.push(name);
    else groups.set(key, { ...row, names: [name] });
  }
  return [...groups.values()];
}

function chainInWords(row: WhyRow & { names: string[] }): string {
  const { explained, names, screen, url, observed } = row;
  const where = names.map((name) => plainText(name)).join(', ');
  if (!explained)
    return `${where}: nothing is loaded${observed ? `, but the browser shows ${plainText(observed)}` : ''}.`;
  const { pick, because, rule } = explained;
  const size = pick.sourceSize === undefined ? '' : ` = ${pixels(pick.sourceSize)} px`;
  const candidates = pick.candidates
    .map(
      ({ url: candidate, density, width }) =>
        `${plainText(nameOf(candidate))} ${width === undefined ? '' : `${width}w = `}${density.toFixed(2)}x`,
    )
    .join(', ');
  const start = because ? `${because}${size}; ` : '';
  const seen =
    observed !== undefined && observed !== url
      ? ` The browser took ${plainText(observed ?? 'nothing')} instead.`
      : '';
  return `${where}: ${plainText(start)}of ${candidates} it takes ${plainText(nameOf(pick.url))}: ${rule}${names.length > 1 ? ` (numbers of ${plainText(screen.name)})` : ''}.${seen}`;
}
