/** A curve over the width of the viewport; undefined where there is nothing. CSS px. */
export type WidthCurve = (viewport: number) => number | undefined;

export interface PlotOptions {
  from: number;
  to: number;
  /** Characters across and down, without the axes. */
  columns: number;
  rows: number;
}

const marks = { slot: '●', claim: '○', both: '◆' };

/**
 * Slot and claim against the width of the viewport, drawn in characters.
 * @returns lines of text; the highest value stands at the upper left, the widths below
 */
export function plotWidths(slot: WidthCurve, claim: WidthCurve, options: PlotOptions): string[] {
  const { from, to, columns, rows } = options;
  const viewportAt = (column: number) => Math.round(from + ((to - from) * column) / (columns - 1));
  const both = Array.from({ length: columns }, (_, column) => ({
    slot: slot(viewportAt(column)),
    claim: claim(viewportAt(column)),
  }));
  const highest = niceCeiling(Math.max(1, ...both.flatMap(({ slot: s, claim: c }) => [s ?? 0, c ?? 0])));
  const rowOf = (value: number) => rows - 1 - Math.round((Math.min(value, highest) / highest) * (rows - 1));
  const grid = Array.from({ length: rows }, () => Array.from({ length: columns }, () => ' '));
  both.forEach((values, column) => {
    const slotRow = values.slot === undefined ? -1 : rowOf(values.slot);
    const claimRow = values.claim === undefined ? -1 : rowOf(values.claim);
    const put = (row: number, mark: string) => {
      const line = grid[row];
      if (line) line[column] = mark;
    };
    put(claimRow, marks.claim);
    put(slotRow, slotRow === claimRow ? marks.both : marks.slot);
  });
  const label = (row: number) => (row === 0 ? String(highest) : row === rows - 1 ? '0' : '');
  const margin = String(highest).length;
  const lines = grid.map((line, row) => `${label(row).padStart(margin)} │${line.join('').trimEnd()}`);
  const right = String(to);
  return [
    ...lines,
    `${' '.repeat(margin)} └${'─'.repeat(columns)}`,
    `${' '.repeat(margin + 2)}${String(from)}${right.padStart(columns - String(from).length)}`,
  ];
}

export const plotLegend = `${marks.slot} slot   ${marks.claim} what sizes claims   ${marks.both} both   (CSS px, against the width of the viewport)`;

function niceCeiling(value: number): number {
  const power = 10 ** Math.floor(Math.log10(value));
  const step = [1, 1.5, 2, 2.5, 3, 4, 5, 6, 8, 10].find((factor) => factor * power >= value) ?? 10;
  return Math.round(step * power);
}
