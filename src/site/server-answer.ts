/** What a server says with the content of an address, as far as that is known. */
export interface ServerAnswer {
  /** Names in small letters. */
  headers: readonly (readonly [name: string, value: string])[];
  /** Body on the wire, bytes. */
  wireBytes: number;
  /** Body decoded, bytes. */
  size: number;
  /** `Content-Encoding`; empty for none, null where that is not known. */
  coding: string | null;
  /** As ALPN names it; null where that is not known. */
  protocol: string | null;
  /** Absolute addresses, or paths of the site, that it leads to, the last of which answers; none without redirects. */
  redirects: readonly string[];
}
