import type { FileHashes } from './file-hashes.js';
import type { PageAnswer, PageRequest } from './live/page-request.js';
import type { Page } from './paths.js';
import type { ServerAnswer } from './server-answer.js';

/** What an audit looks at: a folder that is being served for it, or a site at an address. */
export interface Site {
  kind: 'folder' | 'live';
  name: string;
  basePath: string;
  origin: string;
  pages: Page[];
  /** What of it could not be read or is not audited, by its name from the root. */
  problems: { file: string; why: string }[];
  /** Addresses that lead to a page of the site, or are to be counted as one, and are not audited themselves. */
  redirected?: readonly { page: string; to: string }[];
  /** URL paths of all files that are known, whether a page knows them or not. */
  readonly names: string[];
  /** Asks for addresses as a page asks for images, so that it is known what answers; a folder knows all of its own. */
  ask(addresses: Iterable<string>): Promise<void>;
  /** Name of the file behind a URL path of the site, or behind an address of another host that was asked; undefined where there is none. */
  fileAt(path: string): string | undefined;
  /** Why nothing came from an address that was asked, where its server gave no answer. */
  whyUnanswered?(path: string): string | undefined;
  /** The type with which a URL path of the site is sent. */
  typeOf(path: string): string;
  /** Content of a file by its name. */
  read(file: string): Promise<Buffer>;
  /** SHA-256 of a file, hexadecimal; undefined where it cannot be read. */
  hashOf(file: string): Promise<string | undefined>;
  /** What its server says with an address, where that is known. */
  answerTo?(path: string): Promise<ServerAnswer | undefined>;
  /** Whether another content comes to a browser that accepts only these types; undefined where that cannot be asked. */
  differsFor?(path: string, accept: string): Promise<boolean | undefined>;
  /** Whether it answers as before. */
  answers: Answers;
  /** Names it among all sites that were ever audited here. */
  root: string;
  /** Who answers the pages where not the browser itself asks: other hosts, and all of a site at an address. */
  network?: SiteNetwork;
  close(): Promise<void>;
}

/** Tells whether a site would answer as it did before. */
export interface Answers {
  /** A text that is the same as long as the answer to an address is. */
  to(address: string): Promise<string>;
  /**
   * The same, of an answer that was given at some time.
   * @param since `Date.now()` before the first of the answers
   * @returns undefined if nobody knows what was sent
   */
  given(address: string, since: number): Promise<string | undefined>;
  /** Hashes of the files behind it, if there are any. */
  hashes?: FileHashes;
}

/** A cookie that scripts of a page may read too. */
export interface PageCookie {
  name: string;
  value: string;
  domain: string;
  path: string;
  secure: boolean;
  httpOnly: boolean;
}

export interface SiteNetwork {
  /** Whether a page may ask for an address. */
  allows(url: string): boolean;
  /** Whether what no page's log shows (workers, sockets) may ask for it. */
  allowsUnseen(url: string): boolean;
  /** Hosts that may be asked wherever they are. */
  hosts: readonly string[];
  /** Cookies that the browser has from the beginning. */
  cookies?: readonly PageCookie[];
  /** Whether requests to an address are answered here, and not by what the browser asks itself. */
  covers(url: string): boolean;
  answer(request: PageRequest): Promise<PageAnswer | { failure: string }>;
}
