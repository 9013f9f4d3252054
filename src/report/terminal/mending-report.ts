import type { Proof } from '../../core/mending/proof.js';
import type { Proved } from '../../core/mending/proved-total.js';
import type { Fix, Run } from '../../core/run/index.js';
import { bytesInWords, count, group, percent } from '../../core/wording/words.js';
import type { Mended } from '../../core/mending/mended.js';
import { signed } from '../cut-names.js';
import { TextPage, type TerminalStyle } from './layout.js';
import { plainTable } from './plain-table.js';
import { plainText } from '../plain-text.js';

const mostNamed = 12;

/** What was mended in a copy, and the proof of what that saved; without a proof what would be done. */
export function mendingReport(
  run: Readonly<Run>,
  mended: Mended,
  proof: Proof | undefined,
  style: TerminalStyle,
): string {
  const page = new TextPage(style);
  const { paint } = page;
  const verb = proof ? 'made' : 'would be made';
  page.text(
    paint.bold(
      `${plainText(run.site.name)}: ${count(mended.fixes.length, 'fix', 'fixes')} ${verb}, ${count(mended.edited.length, 'file')} edited, ${count(filesOf(mended), 'new file')}`,
    ),
  );
  page.blank();
  if (proof) proved(page, run, mended, proof);
  else planned(page, mended);
  elsewhere(page, mended);
  left(page, mended);
  return page.toString();
}

const filesOf = ({ files, fixes }: Mended): number =>
  files.length > 0
    ? files.filter(({ problem }) => problem === null).length
    : new Set(fixes.flatMap((fix) => fix.files.filter(({ asked }) => !asked).map(({ name }) => name))).size;

function planned(page: TextPage, { fixes, edited }: Mended): void {
  for (const { id, title, saves } of fixes)
    page.ends(`${plainText(title)} ${page.paint.dim(id)}`, bytesInWords(saves.expected));
  if (edited.length > 0) page.blank();
  for (const file of edited.slice(0, mostNamed)) page.text(plainText(file), 4, '  edit ');
  if (edited.length > mostNamed) page.text(`${group(edited.length - mostNamed)} more files`, 4);
}

function proved(page: TextPage, run: Readonly<Run>, { fixes, files }: Mended, proof: Proof): void {
  const { paint } = page;
  const rows = [
    ...run.screens.map(({ name }) => [plainText(name), proof.screens[name]] as const),
    ['average visit', proof.average] as const,
  ];
  const lines = plainTable(
    columns,
    rows.flatMap(([name, each]) => (each ? [cells(name, each)] : [])),
    (column) => column === columns[0],
  ).split('\n');
  page.raw(lines.map((line) => line.trimEnd()));
  page.blank();
  const broken = fixes.filter(({ id }) => proof.fixes[id]?.kept === false);
  page.text(
    broken.length === 0
      ? `${fixes.length === 1 ? 'The one fix is' : `All ${group(fixes.length)} fixes are`} kept: each screen fetches the files that were promised, within 2 % or 2 kB.`
      : paint.yellow.bold(
          `${count(broken.length, 'fix', 'fixes')} of ${group(fixes.length)} ${broken.length === 1 ? 'is' : 'are'} not kept:`,
        ),
  );
  for (const fix of broken.slice(0, mostNamed)) notKept(page, fix, proof.fixes[fix.id]);
  for (const [name, { kept, reasons }] of Object.entries(proof.screens)) {
    if (kept || reasons.length === 0) continue;
    page.text(paint.yellow(`Of the total on ${plainText(name)} this is not as was promised:`));
    for (const reason of reasons) page.text(plainText(reason), 4, '  - ');
  }
  fetchedLater(page, proof);
  const { went, stayed, stillThere, appeared } = proof.findings;
  page.text(
    `Findings of the fixes made: ${group(went)} gone, ${group(stayed)} still there; ${group(appeared.length)} that ${appeared.length === 1 ? 'was' : 'were'} not there before.`,
  );
  for (const each of stillThere.slice(0, mostNamed))
    page.text(`still there: ${findingInWords(each)}`, 4, '  - ');
  for (const each of appeared.slice(0, mostNamed)) page.text(`new: ${findingInWords(each)}`, 4, '  - ');
  layout(page, proof);
  notSeen(page, proof);
  const compared = files.flatMap(({ looks }) => looks ?? []);
  const worse = compared.filter(({ wanted, reached }) => reached < wanted - looksMargin);
  if (compared.length > 0)
    page.text(
      `Looks: ${group(compared.length - worse.length)} of ${count(compared.length, 'made file')} look the same at their width.`,
    );
}

const findingInWords = ({ check, page, says }: Proof['findings']['appeared'][number]): string =>
  `${check} on ${plainText(page)}: ${plainText(says)}`;

/** Less than this of one visit is not worth a line, bytes. */
const leastLater = 2000;
/** It is no fault: a few are enough to see what it is about. */
const mostLater = 3;

function fetchedLater(page: TextPage, { later }: Proof): void {
  const told = later.filter(({ bytes }) => bytes >= leastLater).sort((a, b) => b.bytes - a.bytes);
  if (told.length === 0) return;
  page.text(
    `Fetched later than was promised, or waiting to be shown, which is saved beside it: ${count(new Set(told.map(({ url }) => url)).size, 'image')}, such as`,
  );
  for (const { page: path, screen, url, bytes } of told.slice(0, mostLater))
    page.text(
      `${plainText(url)} at ${plainText(path)} on ${plainText(screen)}: ${bytesInWords(bytes)} of a visit`,
      4,
      '  - ',
    );
}

function layout(page: TextPage, { layout: { changes, pages, widths, problems }, lost }: Proof): void {
  const { yellow } = page.paint;
  page.text(
    changes.length === 0
      ? `Layout: every element of ${count(pages, 'mended page')} lies where it lay, at ${group(widths)} widths; but for boxes that were the fault.`
      : yellow(`Layout: ${count(changes.length, 'place')} where elements lie elsewhere than before:`),
  );
  for (const { page: path, where, says } of changes.slice(0, mostNamed))
    page.text(`${plainText(path)} at ${plainText(where)}: ${plainText(says)}`, 4, '  - ');
  for (const { page: path, why } of problems.slice(0, mostNamed))
    page.text(`${plainText(path)} could not be compared: ${plainText(why)}`, 4, '  - ');
  if (lost.length > 0) page.text(yellow(`Images that did load before and do not now: ${group(lost.length)}`));
  for (const { page: path, screen, url } of lost.slice(0, mostNamed))
    page.text(`${plainText(url)} at ${plainText(path)} on ${plainText(screen)}`, 4, '  - ');
}

function notSeen(page: TextPage, { unseen }: Proof): void {
  if (unseen.length === 0) return;
  page.text(
    page.paint.yellow(
      `${count(unseen.length, 'visit')} could not be seen whole before or after, and ${unseen.length === 1 ? 'proves' : 'prove'} nothing:`,
    ),
  );
  for (const { page: path, screen, why } of unseen.slice(0, mostNamed))
    page.text(`${plainText(path)} on ${plainText(screen)}: ${plainText(why)}`, 4, '  - ');
}

/** Less than this nobody sees, dB. */
const looksMargin = 0.3;

const columns = ['saved of a visit', 'promised', 'achieved', 'share', 'kept'];

function cells(name: string, { promised, achieved, kept }: Proved): Record<string, string> {
  const share = promised === 0 ? '–' : percent(achieved / promised);
  const amount = (bytes: number) => (bytes < 0 ? signed(bytes, bytesInWords) : bytesInWords(bytes));
  return {
    'saved of a visit': name,
    promised: amount(promised),
    achieved: amount(achieved),
    share,
    kept: kept ? 'yes' : 'no',
  };
}

function notKept(page: TextPage, { id, title }: Fix, proved: Proved | undefined): void {
  page.text(`${plainText(title)} (${id})`, 4, '  - ');
  for (const reason of proved?.reasons ?? []) page.text(plainText(reason), 6, '    ');
}

function elsewhere(page: TextPage, { elsewhere: copies }: Mended): void {
  if (copies.length === 0) return;
  page.blank();
  page.text(
    page.paint.yellow(
      `Texts of ${count(copies.length, 'fix', 'fixes')} stand in pages that were not audited as well, and were left there:`,
    ),
  );
  for (const { fix, files } of copies.slice(0, mostNamed)) {
    const named = files
      .slice(0, mostFiles)
      .map((file) => plainText(file))
      .join(', ');
    const more = files.length > mostFiles ? ` and ${group(files.length - mostFiles)} more` : '';
    page.text(`${named}${more} (${fix})`, 4, '  - ');
  }
}

const mostFiles = 4;

function left(page: TextPage, { left: all }: Mended): void {
  if (all.length === 0) return;
  page.blank();
  page.text(page.paint.bold(`Left to you: ${count(all.length, 'thing')}`));
  for (const { title, why, notes, fix } of all.slice(0, mostNamed)) {
    page.text(`${plainText(title)} (${fix}): ${plainText(why)}.`, 4, '  - ');
    const [first] = notes;
    if (first !== undefined) page.text(plainText(first), 6, '    ');
  }
  if (all.length > mostNamed) page.text(`${group(all.length - mostNamed)} more: see --json.`, 4);
}
