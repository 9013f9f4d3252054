/** What a server answered, with its body in a file. */
export interface Answer {
  /** Absolute. */
  url: string;
  status: number;
  /** In the order in which they came, names in small letters. */
  headers: readonly (readonly [name: string, value: string])[];
  /** The body as it came over the network, bytes. */
  wireBytes: number;
  /** The body decoded, bytes. */
  size: number;
  /** SHA-256 of the decoded body, hexadecimal. */
  hash: string;
  /** As ALPN names it: `http/1.1`, `h2`. */
  protocol: string;
}

/** A request to which no answer came. */
export interface Unanswered {
  url: string;
  /** For people. */
  failure: string;
}

export const isAnswered = (outcome: Answer | Unanswered): outcome is Answer => 'status' in outcome;

/** Value of a header; several of one name joined as RFC 9110, 5.3, says; undefined where there is none. */
export function headerOf({ headers }: Pick<Answer, 'headers'>, name: string): string | undefined {
  const own = headers.filter(([each]) => each === name).map(([, value]) => value);
  return own.length > 0 ? own.join(', ') : undefined;
}

/** The media type without its parameters, in small letters; empty where none is told. */
export const mediaTypeOf = (answer: Pick<Answer, 'headers'>): string =>
  (headerOf(answer, 'content-type') ?? '').replace(/;.*$/s, '').trim().toLowerCase();

/** Whether an answer is a page. */
export const isPage = (answer: Pick<Answer, 'headers'>): boolean =>
  /^(text\/html|application\/xhtml\+xml)$/.test(mediaTypeOf(answer));

/** The address that a redirect leads to; undefined for every other answer. */
export function redirectOf({ url, status, headers }: Answer): string | undefined {
  const location = headerOf({ headers }, 'location');
  if (![301, 302, 303, 307, 308].includes(status) || location === undefined) return undefined;
  return URL.canParse(location, url) ? new URL(location, url).href : undefined;
}
