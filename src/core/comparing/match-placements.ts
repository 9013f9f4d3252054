import type { Placement, Run } from '../run/types.js';

type Key = (placement: Placement) => string | undefined;

/**
 * Which placement of one run is which of another: by its place in the page; of those left by the picture that it shows, so that files may
 * have new names; of those left by its text. Each at most once.
 * @returns ids of the earlier run by ids of the later one
 */
export function matchPlacements(before: Readonly<Run>, after: Readonly<Run>): Map<string, string> {
  const [was, is] = [before, after].map((run) => new Map(run.files.map(({ url, hash }) => [url, hash])));
  const place: Key = ({ page, kind, selector, style }) =>
    JSON.stringify([page, kindOf(kind), selector, style?.property, style?.layer]);
  const text: Key = ({ page, alt }) => (alt ? JSON.stringify([page, alt]) : undefined);
  const picture =
    (hashes: ReadonlyMap<string, string> | undefined): Key =>
    ({ page, candidates }) => {
      const hash = candidates
        .map((url) => hashes?.get(url))
        .find((each) => each !== undefined && each !== '');
      return hash === undefined ? undefined : JSON.stringify([page, hash]);
    };
  const matched = new Map<string, string>();
  const taken = new Set<string>();
  for (const [keyBefore, keyAfter] of [
    [place, place],
    [picture(was), picture(is)],
    [text, text],
  ] as const) {
    const free = new Map<string, string[]>();
    for (const placement of before.placements) {
      const key = taken.has(placement.id) ? undefined : keyBefore(placement);
      if (key !== undefined) free.set(key, [...(free.get(key) ?? []), placement.id]);
    }
    for (const placement of after.placements) {
      if (matched.has(placement.id)) continue;
      const id = free.get(keyAfter(placement) ?? '')?.shift();
      if (id === undefined) continue;
      matched.set(placement.id, id);
      taken.add(id);
    }
  }
  return matched;
}

/** An image that got sources is the same image. */
const kindOf = (kind: Placement['kind']) => (kind === 'picture' ? 'img' : kind);
