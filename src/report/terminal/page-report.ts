import { summarisePages } from '../../core/reporting/page-summary.js';
import { weightsOn } from '../../core/bytes/visit-weights.js';
import type { Run } from '../../core/run/index.js';
import { bytesInWords, count, group, percent } from '../../core/wording/words.js';
import { plainText } from '../plain-text.js';
import type { TextPage } from './layout.js';
import { savedInWords } from './saved.js';

const mostFixes = 5;

/** Every page with what its images weigh, what of that is needed, how it jumps, and its fixes; those that save most first. */
export function pageReport(page: TextPage, run: Readonly<Run>, most: number): void {
  const { paint } = page;
  const shares = new Map(run.screens.map(({ name, share }) => [name, share]));
  const rows = summarisePages(run)
    .filter(({ fixes }) => fixes.length > 0)
    .map((summary) => {
      const mean = (value: (each: (typeof summary.screens)[number]) => number) =>
        Math.round(
          summary.screens.reduce((sum, each) => sum + (shares.get(each.screen) ?? 0) * value(each), 0),
        );
      return {
        ...summary,
        expected: mean((each) => each.expected),
        after: mean((each) => each.expectedAfter),
        shift: Math.max(0, ...summary.page.visits.map(({ shift }) => shift.score)),
      };
    })
    .sort((a, b) => b.expected - b.after - (a.expected - a.after) || (a.page.path < b.page.path ? -1 : 1));
  if (rows.length === 0) {
    page.text(paint.bold('No page has anything to fix.'));
    return;
  }
  const [screen] = run.screens;
  const weights = screen ? weightsOn(run.pages, screen.name) : new Map<string, number>();
  page.ends(paint.bold('Pages'), paint.bold('saved per visit of the page'));
  for (const { page: own, expected, after, shift, fixes, found, sound } of rows.slice(0, most)) {
    page.blank();
    page.ends(paint.bold(plainText(own.path)), savedInWords(expected - after, page));
    page.text(
      `${bytesInWords(expected)} expected, ${bytesInWords(after)} needed; ${percent(weights.get(own.path) ?? own.weight)} of visits; ${count(found, 'image')} with findings, ${group(sound.length)} right as they are${shift >= 0.01 ? `; jumps by ${shift.toFixed(3)}` : ''}`,
      4,
    );
    for (const { fix, rank } of fixes.slice(0, mostFixes))
      page.text(`${plainText(fix.title)} ${paint.dim(fix.id)}`, 9, `    ${paint.dim(`${rank}.`)}`);
    if (fixes.length > mostFixes) page.text(`${group(fixes.length - mostFixes)} more fixes.`, 9);
  }
  if (rows.length > most) {
    page.blank();
    page.text(`${count(rows.length - most, 'more page')}: show them with --limit ${rows.length}.`);
  }
}
