import { usualNoise } from '../comparing/noise.js';
import type { Run } from '../run/types.js';
import { LimitReader } from './limit-reader.js';

/** What a user lets pages weigh and do at most. Bytes; layout-shift values; numbers of findings. */
export interface Limit {
  /** Whether it holds for a page, by its path. */
  holdsOn(page: string): boolean;
  /** Names of screens; all if left out. */
  screens?: readonly string[] | undefined;
  firstView?: number | undefined;
  expected?: number | undefined;
  whole?: number | undefined;
  /** What fixes could still save, expected bytes. */
  saved?: number | undefined;
  shift?: number | undefined;
  /** Findings of each check on a page at most. */
  checks?: Readonly<Record<string, number>> | undefined;
}

export type Measure = 'firstView' | 'expected' | 'whole' | 'saved' | 'shift';

/** One limit that one page goes beyond. */
export interface Breach {
  page: string;
  /** Null for what is counted on all screens together. */
  screen: string | null;
  /** A measure, or the id of a check. */
  what: string;
  value: number;
  most: number;
  /** The fixes from the top of the list that it takes to come under the limit. */
  fixes: string[];
  /** Whether they are enough. */
  cured: boolean;
}

const measures: readonly Measure[] = ['firstView', 'expected', 'whole', 'saved', 'shift'];

/** Every limit that a page of a run goes beyond, in the order of pages, screens and measures. */
export function breachesOf(run: Readonly<Run>, limits: readonly Limit[]): Breach[] {
  if (limits.length === 0) return [];
  const reader = new LimitReader(run);
  return run.pages.flatMap(({ path }) => {
    const own = limits.filter((limit) => limit.holdsOn(path));
    const measured = run.screens.flatMap(({ name }) =>
      measures.flatMap((what) => {
        // The strictest of those that hold.
        const allowed = own
          .filter(({ screens }) => screens === undefined || screens.includes(name))
          .flatMap((limit) => limit[what] ?? []);
        const most = Math.min(...allowed);
        const value = reader.value(path, name, what);
        return value !== undefined && value > most
          ? [{ page: path, screen: name, what, value, most, ...reader.cure(path, name, what, value - most) }]
          : [];
      }),
    );
    const counted = [...new Set(own.flatMap(({ checks = {} }) => Object.keys(checks)))]
      .sort()
      .flatMap((check) => {
        const most = Math.min(...own.flatMap(({ checks }) => checks?.[check] ?? []));
        const value = reader.count(path, check);
        return value > most
          ? [
              {
                page: path,
                screen: null,
                what: check,
                value,
                most,
                ...reader.cureCheck(path, check, value - most),
              },
            ]
          : [];
      });
    return [...measured, ...counted];
  });
}

/** Those that an earlier run did not have, or had by less. */
export function newBreaches(now: readonly Breach[], before: readonly Breach[], noiseBytes: number): Breach[] {
  const known = new Map(before.map((each) => [keyOf(each), each.value]));
  return now.filter((each) => {
    const then = known.get(keyOf(each));
    const noise = each.what === 'shift' ? usualNoise.shift : each.screen === null ? 0 : noiseBytes;
    return then === undefined || each.value > then + noise;
  });
}

const keyOf = ({ page, screen, what }: Breach) => JSON.stringify([page, screen, what]);
