import type { ImageAnswer } from '../run/answer-types.js';

/** How long a browser uses a file again without asking, and whether it can ask for less than the file. */
export interface CacheLife {
  /** Seconds from its arrival; Infinity never occurs. */
  seconds: number;
  /** Whether the server said so, or the browser guesses. */
  told: boolean;
  /** Whether it can ask if the file has changed, so that an unchanged one is not sent again. */
  asks: boolean;
}

type Told = Pick<ImageAnswer, 'cacheControl' | 'expiresIn' | 'unchangedFor' | 'etag' | 'age'>;

/** Directives by their names in small letters. RFC 9111, 5.2. */
export function cacheDirectives(cacheControl: string | null): Map<string, string> {
  const found = new Map<string, string>();
  for (const [, name = '', quoted, plain] of (cacheControl ?? '').matchAll(
    /([!#$%&'*+.^_`|~0-9A-Za-z-]+)(?:\s*=\s*(?:"([^"]*)"|([^\s,;]+)))?/g,
  ))
    if (!found.has(name.toLowerCase())) found.set(name.toLowerCase(), quoted ?? plain ?? '');
  return found;
}

/** A browser that is told nothing keeps a file for so much of the time since it was changed. RFC 9111, 4.2.2. */
const guessedShare = 0.1;

/** How long a private cache uses an answer. RFC 9111, 4.2.1. */
export function cacheLife({ cacheControl, expiresIn, unchangedFor, etag, age }: Told): CacheLife {
  const directives = cacheDirectives(cacheControl);
  const asks = etag !== null || unchangedFor !== null;
  if (directives.has('no-store')) return { seconds: 0, told: true, asks: false };
  if (directives.has('no-cache')) return { seconds: 0, told: true, asks };
  const left = (seconds: number, told: boolean) => ({
    seconds: Math.max(0, Math.round(seconds - age)),
    told,
    asks,
  });
  const most = directives.get('max-age');
  if (most !== undefined && /^\d+$/.test(most)) return left(Number(most), true);
  // What is no date means that it is over already: RFC 9111, 5.3.
  if (expiresIn !== null) return left(expiresIn, true);
  return left((unchangedFor ?? 0) * guessedShare, false);
}

/** A duration as people say it. */
export function durationInWords(seconds: number): string {
  const units = [
    ['year', 31_536_000],
    ['day', 86_400],
    ['hour', 3600],
    ['minute', 60],
  ] as const;
  for (const [name, length] of units)
    if (seconds >= length) {
      const amount = Math.round(seconds / length);
      return `${amount} ${name}${amount === 1 ? '' : 's'}`;
    }
  return seconds === 0 ? 'no time' : `${seconds} seconds`;
}
