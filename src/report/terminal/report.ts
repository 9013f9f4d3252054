import { bytesInWords, count, group } from '../../core/checks/words.js';
import type { Fix, Run, SourcePosition } from '../../core/run/index.js';
import { plainText } from '../plain-text.js';
import { TextPage, type TerminalStyle } from './layout.js';
import { footer } from './footer.js';
import { ledgerChain } from './ledger-chain.js';
import { totalsTable } from './totals-table.js';

export interface TerminalOptions extends TerminalStyle {
  /** Fixes shown; the others are counted. */
  limit: number;
}

/** The whole report of a run as text for a terminal or a pipe. */
export function terminalReport(run: Readonly<Run>, options: TerminalOptions): string {
  const page = new TextPage(options);
  heading(page, run);
  page.raw(totalsTable(run, page.paint, page.columns));
  shifts(page, run);
  page.text(
    page.paint.dim(
      'expected: each download by the share of visits that cause it; needed: the same with every fix made',
    ),
  );
  page.blank();
  fixes(page, run, options.limit);
  footer(page, run);
  return page.toString();
}

function heading(page: TextPage, run: Readonly<Run>): void {
  const pages = count(run.pages.length, 'page');
  const title = `${plainText(run.site.name)}: ${pages} on ${count(run.screens.length, 'screen')}`;
  page.text(page.paint.bold(`${title}, ${count(run.placements.length, 'image placement')}`));
  page.blank();
}

/** The pages that jump when their images arrive, if any does. */
function shifts(page: TextPage, run: Readonly<Run>): void {
  const jumping = run.pages.flatMap(({ path, visits }) => {
    const [worst] = [...visits].sort((a, b) => b.shift.score - a.shift.score);
    return worst && worst.shift.score >= noticedShift ? [{ path, worst }] : [];
  });
  if (jumping.length === 0) return;
  jumping.sort((a, b) => b.worst.shift.score - a.worst.shift.score);
  const named = jumping
    .slice(0, 3)
    .map(
      ({ path, worst }) => `${plainText(path)} ${worst.shift.score.toFixed(3)} on ${plainText(worst.screen)}`,
    );
  const more = jumping.length - named.length;
  page.text(
    `${count(jumping.length, 'page')} ${jumping.length === 1 ? 'jumps' : 'jump'} when ${jumping.length === 1 ? 'its' : 'their'} images arrive (layout shift): ${named.join(', ')}${more > 0 ? ` and ${group(more)} more` : ''}.`,
  );
}

/** Below this a shift is hardly seen. */
const noticedShift = 0.01;

function fixes(page: TextPage, run: Readonly<Run>, limit: number): void {
  const { paint } = page;
  if (run.fixes.length === 0) {
    page.text(paint.bold('Nothing to fix was found.'));
    return;
  }
  page.ends(paint.bold('Fixes'), paint.bold('saved per average visit'));
  run.fixes.slice(0, limit).forEach((fix, index) => {
    page.blank();
    oneFix(page, run, fix, index + 1);
  });
  const hidden = run.fixes.slice(limit);
  if (hidden.length > 0) {
    const bytes = hidden.reduce((sum, { saves }) => sum + saves.expected, 0);
    page.blank();
    page.text(
      `${group(hidden.length)} more ${hidden.length === 1 ? 'fix' : 'fixes'}, together ${bytesInWords(bytes)}: show them with --limit ${run.fixes.length}.`,
    );
  }
}

const margin = 4;
const labelled = 11;

function oneFix(page: TextPage, run: Readonly<Run>, fix: Fix, rank: number): void {
  const { paint } = page;
  const saved =
    fix.saves.expected > 0 ? paint.green.bold(bytesInWords(fix.saves.expected)) : paint.dim('no bytes');
  page.ends(`${paint.bold(`${rank}.`.padEnd(margin))}${paint.bold(plainText(fix.title))}`, saved);
  const field = (name: string, text: string) =>
    page.text(text, labelled, `${' '.repeat(margin)}${paint.dim(name)}`);
  const example = fix.findings
    .map((index) => run.findings[index])
    .find((finding) => finding?.placement === fix.write.example);
  if (example) field('why', plainText(example.says));
  field('where', placesInWords(fix));
  if (fix.saves.expected > 0) {
    field('saves', savingsInWords(fix));
    const chain = chainOf(fix, run);
    if (chain !== undefined) field('bytes', chain);
    field('sure', `${fix.sureness}`);
  }
  if (fix.write.after) {
    page.text(paint.dim('write'), margin);
    page.verbatim(paint.cyan(plainText(fix.write.after, true)), margin + 2);
  }
  if (fix.write.files.length > 0) field('make', filesInWords(fix));
  for (const note of fix.write.notes) field('note', plainText(note));
}

/** The way of the example's bytes on the screen that saves most, if more than one fix takes from them. */
function chainOf({ write, saves }: Fix, run: Readonly<Run>): string | undefined {
  const screens = [...run.screens].sort(
    (a, b) => (saves.screens[b.name] ?? 0) - (saves.screens[a.name] ?? 0),
  );
  for (const { name } of screens) {
    const entry = run.ledger.find(
      ({ screen, placements, cuts }) =>
        screen === name &&
        placements.includes(write.example) &&
        new Set(cuts.map(({ kind }) => kind)).size > 1,
    );
    if (entry) return `${plainText(entry.url)} on ${plainText(name)}: ${ledgerChain(entry)}`;
  }
  return undefined;
}

const mostPlaces = 4;

function placesInWords({ places, write }: Fix): string {
  const first = places.filter(({ placement }) => placement === write.example);
  const ordered = [...first, ...places.filter(({ placement }) => placement !== write.example)];
  const shown = ordered
    .slice(0, mostPlaces)
    .map(({ source, page, selector }) => placeInWords(source, page, selector));
  const more = ordered.length - shown.length;
  return shown.join(', ') + (more > 0 ? ` and ${count(more, 'more place')}` : '');
}

function placeInWords(source: SourcePosition | null, page: string, selector: string): string {
  return plainText(
    source ? `${source.file}:${source.line}:${source.column}` : `${page} ${selector} (made by a script)`,
  );
}

function savingsInWords({ saves }: Fix): string {
  const screens = Object.entries(saves.screens)
    .filter(([, bytes]) => bytes > 0)
    .map(([name, bytes]) => `${plainText(name)} ${bytesInWords(bytes)}`);
  return `${screens.join(', ')} (first view ${bytesInWords(saves.firstView)}, scrolled to the end ${bytesInWords(saves.whole)}); ${bytesInWords(1000 * saves.expected)} in 1,000 visits`;
}

const mostFiles = 6;

function filesInWords({ write }: Fix): string {
  const shown = write.files
    .slice(0, mostFiles)
    .map(({ name, bytes }) => `${plainText(name)} ${bytesInWords(bytes)}`);
  const more = write.files.length - shown.length;
  return shown.join(', ') + (more > 0 ? ` and ${count(more, 'more file')}` : '');
}
