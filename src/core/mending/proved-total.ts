import type { Download } from '../run/types.js';
import type { PromisedVisit } from './promise.js';

/** Kept means within this share, or within so many bytes. */
const tolerance = { share: 0.02, bytes: 2000 };

export type Kept = (promised: number, achieved: number) => boolean;

export const isNear: Kept = (promised, achieved) =>
  Math.abs(promised - achieved) <= Math.max(tolerance.bytes, Math.abs(promised) * tolerance.share);

/** Expected bytes of an average visit that were to be saved and that are. */
export interface Proved {
  promised: number;
  achieved: number;
  kept: boolean;
  /** Why it is not kept. */
  reasons: string[];
}

/** An image that is fetched later than was promised, and the expected bytes of a visit that this saves. */
export interface LaterImage {
  page: string;
  screen: string;
  url: string;
  bytes: number;
}

/** What a visit was promised to be, and what an audit of the mended copy saw. */
export interface ProvedVisit {
  promised: PromisedVisit;
  /** With the shares of visits that cause them, 0 to 1. */
  downloads: readonly (Download & { reach: number })[];
  /** What each address cost before, expected bytes. */
  earlier: ReadonlyMap<string, number>;
  achieved: number;
  later: LaterImage[];
  /** Addresses of lazy images that the visit never came near while they were shown. */
  asleep: ReadonlySet<string>;
  /** Expected bytes of what no element shows that are not fetched any more: nothing was promised of them. */
  unshown: number;
}

/** What visits were to save together, and what they do. */
export function total(visits: readonly ProvedVisit[], scale: number, isKept: Kept): Proved {
  const sum = (value: (visit: ProvedVisit) => number) =>
    Math.round(visits.reduce((all, visit) => all + visit.promised.weight * scale * value(visit), 0));
  const promised = sum(({ promised: own }) => own.before - own.after);
  const achieved = sum(({ promised: own, achieved: now }) => own.before - now);
  // What is left is held against what was to be left: a share of the savings would forgive much on heavy pages.
  const left = {
    promised: sum(({ promised: own }) => own.after),
    now: sum(({ achieved: now, later, unshown }) =>
      later.reduce((all, { bytes }) => all + bytes, now + unshown),
    ),
  };
  const kept = isKept(left.promised, left.now);
  const reasons = kept ? [] : differences(visits, Math.sign(left.now - left.promised));
  return { promised, achieved, kept, reasons };
}

const mostReasons = 3;

/**
 * Addresses that cost more than was promised, those that matter most first.
 * @param sign -1 for those that cost less
 */
function differences(visits: readonly ProvedVisit[], sign: number): string[] {
  const all = visits.flatMap(({ promised, downloads, earlier }) => {
    const wanted = new Map(promised.downloads.map((each) => [each.url, each]));
    return downloads.map(({ url, bytes, reach }) => {
      const then = wanted.get(url);
      // What comes later than was promised is counted apart.
      const now = bytes * Math.max(reach, then?.reach ?? 0);
      const cost =
        sign * promised.weight * (now - (then ? then.bytes * then.reach : (earlier.get(url) ?? 0)));
      const how =
        then === undefined
          ? 'is fetched, which was not foreseen,'
          : reach > then.reach
            ? 'is fetched sooner than was promised'
            : `is ${sign > 0 ? 'heavier' : 'lighter'} than was promised`;
      return { cost, says: `${url} ${how} at ${promised.page} on ${promised.screen}` };
    });
  });
  return all
    .filter(({ cost }) => cost > 0)
    .sort((a, b) => b.cost - a.cost || (a.says < b.says ? -1 : 1))
    .slice(0, mostReasons)
    .map(({ says }) => says);
}
