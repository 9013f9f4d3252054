import leven from 'leven';

/** Says that there is no such name, and which one is meant, if one is near. */
export function unknown(name: string, known: readonly string[], what: string): string {
  const [nearest] = [...known].sort((a, b) => leven(name, a) - leven(name, b));
  const near = nearest !== undefined && leven(name, nearest) <= Math.max(2, name.length / 3);
  return `there is no such ${what}${near ? `; did you mean "${nearest}"?` : ''}`;
}
