import Table from 'cli-table3';

/** A table without lines. */
export function plainTable(
  columns: readonly string[],
  rows: readonly Record<string, string>[],
  isText: (column: string) => boolean,
): string {
  const drawn = new Table({
    head: [...columns],
    style: { head: [], border: [], compact: true, 'padding-left': 0, 'padding-right': 2 },
    chars: noBorders,
    colAligns: columns.map((name) => (isText(name) ? 'left' : 'right')),
  });
  for (const row of rows) drawn.push(columns.map((name) => row[name] ?? ''));
  return drawn.toString();
}

const noBorders = Object.fromEntries(
  [
    'top',
    'top-mid',
    'top-left',
    'top-right',
    'bottom',
    'bottom-mid',
    'bottom-left',
    'bottom-right',
    'left',
    'left-mid',
    'mid',
    'mid-mid',
    'right',
    'right-mid',
    'middle',
  ].map((name) => [name, '']),
);
