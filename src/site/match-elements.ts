import { groupBy } from '../core/grouping.js';

/** An element of a page, as it was found there or stands in a file. */
export interface LiveElement {
  tag: string;
  attributes: readonly (readonly [name: string, value: string])[];
}

const keyOf = ({ tag, attributes }: LiveElement) => JSON.stringify([tag, [...attributes].sort()]);
const looseKeyOf = ({ tag, attributes }: LiveElement) => {
  const kept = attributes.filter(([name]) => name === 'id' || name === 'alt');
  return JSON.stringify([tag, kept.sort()]);
};

/** More comparisons than this are not made: beyond it elements are matched by their attributes alone. */
const mostComparisons = 4_000_000;

/**
 * Finds for each live element the element of the file that it came from. Scripts add, remove and change elements, so both
 * lists are aligned by their longest common subsequence of equal tags. What is left on both sides and is written the same was moved by a
 * script; between the common ones, elements with the same tag, id and text alternative are paired in order.
 */
export function matchElements<Written extends LiveElement>(
  live: readonly LiveElement[],
  source: readonly Written[],
): (Written | null)[] {
  const matched: (Written | null)[] = live.map(() => null);
  const liveKeys = live.map(keyOf);
  const sourceKeys = source.map(keyOf);
  let from = 0;
  while (from < live.length && from < source.length && liveKeys[from] === sourceKeys[from]) {
    matched[from] = source[from] ?? null;
    from++;
  }
  const pairs = commonSubsequence(liveKeys.slice(from), sourceKeys.slice(from)).map(
    ([liveAt, sourceAt]) => [from + liveAt, from + sourceAt] as const,
  );
  for (const [liveAt, sourceAt] of pairs) matched[liveAt] = source[sourceAt] ?? null;
  const taken = new Set(matched);
  if (!taken.has(null)) return matched;
  pairMoved({ matched, taken }, liveKeys, source, sourceKeys);
  let lastLive = from;
  let lastSource = from;
  for (const [liveAt, sourceAt] of [...pairs, [live.length, source.length] as const]) {
    pairLoosely(live, source, { matched, taken }, [lastLive, liveAt], [lastSource, sourceAt]);
    lastLive = liveAt + 1;
    lastSource = sourceAt + 1;
  }
  return matched;
}

/** The element of the file for each live one, and all of them together; null among them for those without. */
interface Matched<Written> {
  matched: (Written | null)[];
  taken: Set<Written | null>;
}

/** Elements that are written the same are paired in order, as long as as many of them are left on both sides. */
function pairMoved<Written extends LiveElement>(
  { matched, taken }: Matched<Written>,
  liveKeys: readonly string[],
  source: readonly Written[],
  sourceKeys: readonly string[],
): void {
  const left = [...matched.keys()].filter((at) => matched[at] === null);
  const free = [...source.entries()].filter(([, element]) => !taken.has(element));
  const freeByKey = groupBy(free, ([at]) => sourceKeys[at] ?? '');
  for (const [key, own] of groupBy(left, (at) => liveKeys[at] ?? '')) {
    const alike = freeByKey.get(key) ?? [];
    if (alike.length !== own.length) continue;
    for (const [index, at] of own.entries()) {
      const written = alike[index]?.[1];
      if (!written) continue;
      matched[at] = written;
      taken.add(written);
    }
  }
}

type Stretch = readonly [from: number, to: number];

function pairLoosely<Written extends LiveElement>(
  live: readonly LiveElement[],
  source: readonly Written[],
  { matched, taken }: Matched<Written>,
  [liveFrom, liveTo]: Stretch,
  [sourceFrom, sourceTo]: Stretch,
): void {
  let next = sourceFrom;
  for (let at = liveFrom; at < liveTo; at++) {
    const element = live[at];
    if (!element || matched[at]) continue;
    for (let candidate = next; candidate < sourceTo; candidate++) {
      const written = source[candidate];
      if (!written || taken.has(written) || looseKeyOf(written) !== looseKeyOf(element)) continue;
      matched[at] = written;
      next = candidate + 1;
      break;
    }
  }
}

function commonSubsequence(a: readonly string[], b: readonly string[]): (readonly [number, number])[] {
  if (a.length * b.length > mostComparisons) return greedy(a, b);
  const width = b.length + 1;
  const lengths = new Uint32Array((a.length + 1) * width);
  for (let i = a.length - 1; i >= 0; i--)
    for (let j = b.length - 1; j >= 0; j--)
      lengths[i * width + j] =
        a[i] === b[j]
          ? (lengths[(i + 1) * width + j + 1] ?? 0) + 1
          : Math.max(lengths[(i + 1) * width + j] ?? 0, lengths[i * width + j + 1] ?? 0);
  const pairs: (readonly [number, number])[] = [];
  for (let i = 0, j = 0; i < a.length && j < b.length;) {
    if (a[i] === b[j]) pairs.push([i++, j++]);
    else if ((lengths[(i + 1) * width + j] ?? 0) >= (lengths[i * width + j + 1] ?? 0)) i++;
    else j++;
  }
  return pairs;
}

/** Each element takes the next equal one, always going forward. */
function greedy(a: readonly string[], b: readonly string[]): (readonly [number, number])[] {
  const places = new Map<string, number[]>();
  b.forEach((key, index) => {
    const list = places.get(key);
    if (list) list.push(index);
    else places.set(key, [index]);
  });
  const pairs: (readonly [number, number])[] = [];
  let last = -1;
  a.forEach((key, index) => {
    const list = places.get(key);
    while (list?.[0] !== undefined && list[0] <= last) list.shift();
    const found = list?.shift();
    if (found === undefined) return;
    pairs.push([index, found]);
    last = found;
  });
  return pairs;
}
