import type { TabCookie } from './tab.js';

/** A request of a page. */
export interface AskedRequest {
  url: string;
  method: string;
  headers: Readonly<Record<string, string>>;
  /** What is sent with it, if something is. */
  body: string | undefined;
  /** Resource type in the browser's words: Document, Image, Stylesheet, … */
  resource: string;
}

/** What a page is given for a request. */
export interface GivenAnswer {
  status: number;
  headers: readonly { name: string; value: string }[];
  /** Decoded. */
  body: Buffer;
  /** Of the body as it came over the network, bytes. */
  wireBytes: number;
}

/** Why a request of a page got no answer. */
export interface NoAnswer {
  failure: string;
}

/** Gives the answer to a request in the place of the network; undefined for those that the browser makes itself. */
export type AnswerTo = (request: AskedRequest) => Promise<GivenAnswer | NoAnswer> | undefined;

/** What is done with a page before it is looked at. */
export interface Preparation {
  /** CSS selector of what shows that the page is ready. */
  waitFor?: string | undefined;
  /** CSS selectors of what is clicked then, one after the other, where it is there. */
  click?: readonly string[] | undefined;
}

/** What a page may ask for, who answers it, and what is done with it first. */
export interface PageAccess {
  /** Whether a request to a URL may be made. */
  allows(url: string): boolean;
  /** Answers in the place of the network; the browser makes all requests itself if left out. */
  answer?: AnswerTo | undefined;
  /** Cookies that the browser has from the beginning. */
  cookies?: readonly TabCookie[] | undefined;
  prepare?: Preparation | undefined;
}
