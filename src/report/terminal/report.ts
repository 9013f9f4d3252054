import { bytesInWords, count, group, listed } from '../../core/wording/words.js';
import type { Fix, Run } from '../../core/run/index.js';
import { plainText } from '../plain-text.js';
import { TextPage, type TerminalStyle } from './layout.js';
import { causeReport } from './cause-report.js';
import { fixReport } from './fix-report.js';
import { footer } from './footer.js';
import { pageReport } from './page-report.js';
import { pictureReport } from './picture-report.js';
import { totalsTable } from './totals-table.js';

/** What a report's list is made of. */
export const views = ['fix', 'cause', 'page', 'picture'] as const;
export type View = (typeof views)[number];

export interface TerminalOptions extends TerminalStyle {
  /** Fixes shown of those that save bytes and of the others; the rest is counted. */
  limits: { saving: number; felt: number };
  /** What the bytes are summed up by. */
  by: View;
  /** Whether some fixes were left out because a reader asked for others. */
  filtered?: boolean;
}

/** The whole report of a run as text for a terminal or a pipe. */
export function terminalReport(run: Readonly<Run>, options: TerminalOptions): string {
  const page = new TextPage(options);
  heading(page, run);
  page.raw(totalsTable(run, page.paint, page.columns));
  // Of what was left out nobody may say that no fix is known.
  if (!options.filtered) shifts(page, run);
  page.text(
    page.paint.dim(
      'expected: each download by the share of visits that cause it; needed: the same with every fix made',
    ),
  );
  beside(page, run);
  page.blank();
  const { by, limits } = options;
  if (by === 'cause') causeReport(page, run);
  else if (by === 'page') pageReport(page, run, limits.saving);
  else if (by === 'picture') pictureReport(page, run, limits.saving);
  else fixes(page, run, limits);
  footer(page, run);
  return page.toString();
}

function heading(page: TextPage, run: Readonly<Run>): void {
  const pages = count(run.pages.length, 'page');
  const title = `${plainText(run.site.name)}: ${pages} on ${count(run.screens.length, 'screen')}`;
  page.text(page.paint.bold(`${title}, ${count(run.placements.length, 'image placement')}`));
  page.blank();
}

/** What stands beside the totals and is in none of their columns. */
function beside(page: TextPage, { notJudged, totals: { average }, conditions }: Readonly<Run>): void {
  if (average.notJudged > 0) {
    const named = notJudged
      .slice(0, 3)
      .map(({ url, pages }) => `${plainText(url)} on ${plainText(pages[0] ?? '')}`);
    page.text(
      `Not judged: ${bytesInWords(average.notJudged)} of an average visit that no element of a page shows (canvases, scripts, frames of other hosts): ${listed([...named, ...more(notJudged.length - named.length)])}.`,
    );
  }
  if (average.byItself > 0)
    page.text(
      `Later by itself: ${bytesInWords(average.byItself)} of an average visit, for other pages or within ${conditions.timersRunAheadMs / 1000} s of the timers of the page; in no first view.`,
    );
}

const mostJumping = 5;

/** The pages that jump when their images arrive, each with the fixes that cure it. */
function shifts(page: TextPage, run: Readonly<Run>): void {
  const jumping = run.pages.flatMap(({ path, visits }) => {
    const [worst] = [...visits].sort((a, b) => b.shift.score - a.shift.score);
    return worst && worst.shift.score >= noticedShift ? [{ path, worst }] : [];
  });
  if (jumping.length === 0) return;
  jumping.sort((a, b) => b.worst.shift.score - a.worst.shift.score);
  const one = jumping.length === 1;
  page.text(
    `${count(jumping.length, 'page')} ${one ? 'jumps' : 'jump'} when ${one ? 'its' : 'their'} images arrive (layout shift):`,
  );
  for (const { path, worst } of jumping.slice(0, mostJumping)) {
    const cures = run.fixes.flatMap(({ shift, pages, id }, index) =>
      shift > 0 && pages.includes(path) ? [`${index + 1} (${id})`] : [],
    );
    const cure =
      cures.length === 0
        ? 'no fix is known'
        : `fix ${listed([...cures.slice(0, 3), ...more(cures.length - 3)])}`;
    page.text(
      `${plainText(path)} by ${worst.shift.score.toFixed(3)} on ${plainText(worst.screen)}: ${cure}`,
      4,
      '  - ',
    );
  }
  if (jumping.length > mostJumping)
    page.text(`${group(jumping.length - mostJumping)} more in the run file.`, 4);
}

const more = (left: number) => (left > 0 ? [`${group(left)} more`] : []);

/** Below this a shift is hardly seen. */
const noticedShift = 0.01;

/** What saves bytes, and apart from it what saves none but is felt: neither hides the other. */
function fixes(page: TextPage, run: Readonly<Run>, { saving, felt }: TerminalOptions['limits']): void {
  const { paint } = page;
  if (run.fixes.length === 0) {
    page.text(paint.bold('Nothing to fix was found.'));
    return;
  }
  const ranked = run.fixes.map((fix, index) => ({ fix, rank: index + 1 }));
  const bytes = ranked.filter(({ fix }) => fix.saves.expected > 0);
  const others = ranked.filter(({ fix }) => fix.saves.expected <= 0);
  if (bytes.length > 0) {
    page.ends(paint.bold('Fixes'), paint.bold('saved per average visit'));
    list(page, run, bytes.slice(0, saving));
    const hidden = bytes.slice(saving);
    const sum = hidden.reduce((total, { fix }) => total + fix.saves.expected, 0);
    if (hidden.length > 0)
      told(
        page,
        `${group(hidden.length)} more ${hidden.length === 1 ? 'fix' : 'fixes'}, together ${bytesInWords(sum)}: show them with --limit ${bytes.length}.`,
      );
  }
  if (others.length === 0) return;
  if (bytes.length > 0) page.blank();
  page.text(paint.bold('Fixes that save no bytes, what visitors feel most first'));
  list(page, run, others.slice(0, felt));
  const hidden = others.length - felt;
  if (hidden > 0)
    told(
      page,
      `${group(hidden)} more ${hidden === 1 ? 'fix' : 'fixes'} without bytes: show them with --limit ${saving},${others.length}.`,
    );
}

function list(page: TextPage, run: Readonly<Run>, shown: readonly { fix: Fix; rank: number }[]): void {
  for (const { fix, rank } of shown) {
    page.blank();
    fixReport(page, run, fix, rank);
  }
}

function told(page: TextPage, text: string): void {
  page.blank();
  page.text(text);
}
