import stringWidth from 'string-width';
import type { RunComparison } from '../../core/comparing/compare-runs.js';
import { group } from '../../core/wording/words.js';
import { comparisonInWords, comparisonTables, type ComparisonTable } from '../comparison-tables.js';
import { plainText } from '../plain-text.js';
import { pad, TextPage, type TerminalStyle } from './layout.js';

/** What got better, worse, appeared and went between two runs. */
export function comparisonReport(comparison: RunComparison, style: TerminalStyle): string {
  const page = new TextPage(style);
  page.text(page.paint.bold(comparisonInWords(comparison)));
  for (const table of comparisonTables(comparison)) drawTable(page, table);
  for (const note of comparison.notes) {
    page.blank();
    page.text(page.paint.yellow(plainText(note)));
  }
  return page.toString();
}

/** Wider cells are cut, but for the last, which is wrapped. */
const widestCell = 44;
const gap = 2;

function drawTable(page: TextPage, { title, head, rows, left }: ComparisonTable): void {
  page.blank();
  page.text(page.paint.bold(title));
  const lines = [head, ...rows].map((row) => row.map((cell) => plainText(cell)));
  const last = head.length - 1;
  const widths = head.map((_, column) =>
    column === last
      ? 0
      : Math.min(widestCell, Math.max(...lines.map((line) => stringWidth(line[column] ?? '')))),
  );
  const indent = gap + widths.reduce((sum, width) => sum + (width > 0 ? width + gap : 0), 0);
  // Where hardly any room is left beside the others, the last cell goes below them.
  const below = page.columns - indent < 24;
  lines.forEach((line, index) => {
    const paint = index === 0 ? page.paint.dim : (text: string) => text;
    const before = line
      .slice(0, last)
      .map((cell, column) => pad(cut(cell, widths[column] ?? 0), (widths[column] ?? 0) + gap))
      .join('');
    const end = line[last] ?? '';
    if (!below) page.text(paint(end), indent, paint(' '.repeat(gap) + before));
    else {
      page.text(paint(before.trimEnd()), gap);
      if (index > 0) page.text(end, 2 * gap);
    }
  });
  if (left > 0) page.text(`${group(left)} more with --json.`, gap);
}

const cut = (text: string, width: number) => (text.length > width ? `${text.slice(0, width - 1)}…` : text);
