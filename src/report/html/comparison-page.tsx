import type { RunComparison } from '../../core/comparing/compare-runs.js';
import { comparisonInWords, comparisonTables } from '../comparison-tables.js';
import { htmlPage } from './html-page.js';
import { Foreign, Table } from './parts.js';

/** So many rows of each table: more than anybody reads, and still a page that opens at once. */
const mostRows = 500;

/** Columns of words. */
const wordy: ReadonlySet<string> = new Set(['page', 'what it is', 'what to do', 'file', 'screen']);

/** A comparison of two runs as one HTML page that asks nobody for anything. */
export function comparisonPage(name: string, comparison: RunComparison): string {
  return htmlPage(
    `${name}: images, compared`,
    <main>
      <h1>
        <Foreign text={name} />, compared
      </h1>
      <p class="lead">{comparisonInWords(comparison)}</p>
      {comparisonTables(comparison, mostRows).map(({ title, head, rows, left }) => (
        <section key={title}>
          <h2>{title}</h2>
          <Table
            label={title}
            head={head}
            words={head.flatMap((name, column) => (wordy.has(name) ? [column] : []))}
            rows={rows.map((row) =>
              row.map((cell, column) => <Foreign key={column} text={cell} most={600} />),
            )}
          />
          {left > 0 ? <p>{left} more in the comparison as JSON.</p> : null}
        </section>
      ))}
      {comparison.notes.map((note) => (
        <p class="note" key={note}>
          <Foreign text={note} most={600} />
        </p>
      ))}
    </main>,
  );
}
