import { bytesInWords, count, group } from '../../core/wording/words.js';
import type { Run } from '../../core/run/index.js';
import { plainText } from './plain-text.js';
import { TextPage, type TerminalStyle } from './layout.js';
import { causeReport } from './cause-report.js';
import { fixReport } from './fix-report.js';
import { footer } from './footer.js';
import { totalsTable } from './totals-table.js';

export interface TerminalOptions extends TerminalStyle {
  /** Fixes shown; the others are counted. */
  limit: number;
  /** What the bytes are summed up by. */
  by: 'fix' | 'cause';
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
  if (options.by === 'cause') causeReport(page, run);
  else fixes(page, run, options.limit);
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
    fixReport(page, run, fix, index + 1);
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
