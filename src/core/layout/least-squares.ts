/** Keeps what cannot be told apart from making the system unsolvable; so small that no fitted length moves by it. */
const ridge = 1e-6;

/**
 * The coefficients with which columns of numbers sum up to another with the smallest squares of what is left (normal equations, solved by
 * Gaussian elimination with pivoting).
 * @param rows one for each observation, all as long
 * @param values as many as rows
 */
export function leastSquares(rows: readonly (readonly number[])[], values: readonly number[]): number[] {
  const size = rows[0]?.length ?? 0;
  // Columns of one size each, so that one small constant suits them all.
  const scale = Array.from({ length: size }, (_, column) =>
    Math.max(1, ...rows.map((row) => Math.abs(row[column] ?? 0))),
  );
  const at = (row: readonly number[], column: number) => (row[column] ?? 0) / (scale[column] ?? 1);
  const system = Array.from({ length: size }, (_, i) => [
    ...Array.from(
      { length: size },
      (__, j) => rows.reduce((sum, row) => sum + at(row, i) * at(row, j), 0) + (i === j ? ridge : 0),
    ),
    rows.reduce((sum, row, index) => sum + at(row, i) * (values[index] ?? 0), 0),
  ]);
  return solve(system).map((value, column) => value / (scale[column] ?? 1));
}

/** Solves a system in place; each row ends in its right side. */
function solve(system: number[][]): number[] {
  const size = system.length;
  const cell = (row: number, column: number) => system[row]?.[column] ?? 0;
  for (let column = 0; column < size; column++) {
    let pivot = column;
    for (let row = column + 1; row < size; row++)
      if (Math.abs(cell(row, column)) > Math.abs(cell(pivot, column))) pivot = row;
    [system[column], system[pivot]] = [system[pivot] ?? [], system[column] ?? []];
    const head = cell(column, column) || 1;
    for (let row = column + 1; row < size; row++) {
      const factor = cell(row, column) / head;
      if (factor === 0) continue;
      const target = system[row];
      if (target)
        for (let k = column; k <= size; k++) target[k] = (target[k] ?? 0) - factor * cell(column, k);
    }
  }
  const solution = new Array<number>(size).fill(0);
  for (let row = size - 1; row >= 0; row--) {
    let rest = cell(row, size);
    for (let k = row + 1; k < size; k++) rest -= cell(row, k) * (solution[k] ?? 0);
    solution[row] = rest / (cell(row, row) || 1);
  }
  return solution;
}
