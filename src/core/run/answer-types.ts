/** What a server said of an image, where its answers are known: of sites at addresses, of other hosts, and as a file of headers tells it. */
export interface ImageAnswer {
  url: string;
  /** `Content-Type` as it was sent. */
  type: string;
  /** Body on the wire, bytes. */
  wireBytes: number;
  /** Body decoded, bytes. */
  bytes: number;
  /** `Content-Encoding`; empty for none, null where that is not known. */
  coding: string | null;
  /** As ALPN names it; null where that is not known. */
  protocol: string | null;
  cacheControl: string | null;
  /** `Expires` from `Date` on, seconds; 0 for what is no date. */
  expiresIn: number | null;
  /** `Date` from `Last-Modified` on, seconds, in whole days: all that a browser guesses by where nothing is told. */
  unchangedFor: number | null;
  etag: string | null;
  /** Seconds that it lay in caches on its way. */
  age: number;
  vary: string | null;
  /** Addresses that led to it, the first first. */
  redirects: string[];
  /** A vector picture packed as hosts pack text, bytes; null for all else. */
  packed: number | null;
  /** Whether a browser that takes no newer format is sent something else; null where that was not asked. */
  negotiated: boolean | null;
}

/** A host that seems to resize by address. */
export interface HostGuess {
  /** What to try with `--image-host`. */
  template: string;
  /** How many pictures come in several widths by it. */
  pictures: number;
}

/** What a returning visit pays once more. */
export interface AgainTotals {
  /** Share of visits that come back. */
  returning: number;
  /** After so many seconds. */
  after: number;
  /** Bytes that an average visit, first or returning, fetches again. */
  bytes: number;
  /** Requests of an average visit that only ask whether a file has changed. */
  questions: number;
}
