import type { RootContent } from 'mdast';
import type { RunComparison } from '../core/comparing/compare-runs.js';
import { comparisonInWords, comparisonTables } from './comparison-tables.js';
import { asMarkdown, paragraph, table, text, title } from './markdown-parts.js';

/** A comparison of two runs as Markdown that fits a review comment, cut where there is no more room. */
export function comparisonAsMarkdown(name: string, comparison: RunComparison, most: number): string {
  const head: RootContent[] = [
    title(2, text(`Images of ${name}, compared`)),
    paragraph(text(comparisonInWords(comparison))),
  ];
  for (const rows of [50, 20, 8, 3, 1]) {
    const tables = comparisonTables(comparison, rows).flatMap((each): RootContent[] => [
      title(3, text(each.title)),
      table(
        each.head,
        each.rows.map((row) => row.map((cell) => [text(cell)])),
      ),
      ...(each.left > 0 ? [paragraph(text(`${each.left} more.`))] : []),
    ]);
    const written = asMarkdown([
      ...head,
      ...tables,
      ...comparison.notes.map((note) => paragraph(text(note))),
    ]);
    if (written.length <= most) return written;
  }
  return asMarkdown(head).slice(0, most);
}
