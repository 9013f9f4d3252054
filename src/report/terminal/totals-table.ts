import type { ChalkInstance } from 'chalk';
import { bytesInWords, percent } from '../../core/wording/words.js';
import type { Run, ScreenTotals } from '../../core/run/index.js';
import { plainText } from '../plain-text.js';
import { pad, padStart } from './layout.js';

/** What an average visit downloads and what it needs, a line for each screen. */
export function totalsTable(run: Readonly<Run>, paint: ChalkInstance, columns: number): string[] {
  const wide = columns >= 100;
  const rows = run.totals.screens.map((totals, index) => {
    const screen = run.screens[index];
    const size = screen ? `${screen.width}×${screen.height} @${screen.density}` : '';
    return cells(totals, `${plainText(totals.screen)}`, size, percent(screen?.share ?? 0), wide);
  });
  const average = cells(run.totals.average, 'average visit', '', '', wide);
  const head = [
    'images of a page',
    ...(wide ? ['screen', 'visits'] : ['visits']),
    'first view',
    'whole page',
    'expected',
    'needed',
    'saves',
  ];
  const all = [head, ...rows, average];
  const widths = head.map((_, column) => Math.max(...all.map((row) => (row[column] ?? '').length)));
  const line = (row: readonly string[], style: (text: string) => string) =>
    style(row.map((cell, column) => (column === 0 ? pad : padStart)(cell, widths[column] ?? 0)).join('   '));
  return [line(head, paint.dim), ...rows.map((row) => line(row, (text) => text)), line(average, paint.bold)];
}

function cells(totals: ScreenTotals, name: string, size: string, visits: string, wide: boolean): string[] {
  const { firstView, whole, expected, expectedAfter } = totals;
  const share = expected > 0 ? percent((expected - expectedAfter) / expected) : '0 %';
  const numbers = [firstView, whole, expected, expectedAfter].map(bytesInWords);
  return [name, ...(wide ? [size, visits] : [visits]), ...numbers, share];
}
