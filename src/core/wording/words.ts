/** Bytes in the unit that a reader takes in at a glance: 830 B, 12 kB, 1,240 kB, 12.4 MB. */
export function bytesInWords(bytes: number): string {
  const size = Math.abs(bytes);
  if (size < 1000) return `${Math.round(bytes)} B`;
  if (size < 9_950) return `${(bytes / 1000).toFixed(1)} kB`;
  if (size < 9_999_500) return `${group(Math.round(bytes / 1000))} kB`;
  if (size < 99_950_000) return `${(bytes / 1_000_000).toFixed(1)} MB`;
  return `${group(Math.round(bytes / 1_000_000))} MB`;
}

/** 12345 as 12,345. */
export function group(value: number): string {
  return String(Math.round(value)).replace(/\B(?=(\d{3})+$)/g, ',');
}

/** A length with at most one decimal: 358, 357.5. */
export function pixels(value: number): string {
  return group(value) === String(value) || Math.abs(value - Math.round(value)) < 0.05
    ? group(value)
    : value.toFixed(1);
}

export function percent(share: number): string {
  return `${Math.round(share * 100)} %`;
}

/** "a, b and c". */
export function listed(words: readonly string[]): string {
  if (words.length < 2) return words.join('');
  return `${words.slice(0, -1).join(', ')} and ${words.at(-1)}`;
}

export function count(amount: number, one: string, many = `${one}s`): string {
  return `${group(amount)} ${amount === 1 ? one : many}`;
}

/** What an error says; of what is no error whatever can be told of it. */
export function causeInWords(cause: unknown): string {
  if (cause instanceof Error) return cause.message;
  if (typeof cause === 'object' && cause !== null)
    return 'message' in cause && typeof cause.message === 'string' ? cause.message : JSON.stringify(cause);
  return String(cause);
}
