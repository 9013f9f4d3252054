import type { CDPSession } from 'puppeteer-core';

/** What to do with a request for a document. */
export type DocumentDecision = 'continue' | 'stop';

/** A request for a document, at its beginning or (with a status) when its answer is there. */
export interface DocumentRequest {
  frameId: string;
  url: string;
  /** 0 where none came. */
  status?: number | undefined;
  headers?: readonly { name: string; value: string }[] | undefined;
}

/** A page that goes on loading itself anew is held where it is after so many. */
export const mostReloads = 3;

/** So much later a page that was kept from loading itself anew has read what it will, ms. */
const partlyReadMs = 300;

/** A refresh that comes later lets visitors see the page first. */
const atOnceSeconds = 1;

/**
 * Where a page leads by itself: by a refresh, or by a script. It is kept where it is instead, so that what is seen of it does not
 * depend on how far a visit had come when it left; what it was about to show is known from the answer, which is not shown.
 */
export class Departures {
  /** The document that the page leads to before a visitor sees it whole; later ones are only stopped. */
  ledTo: string | undefined;
  /** Where the first document came from in the end, after the redirects of its server. */
  landed = '';
  #scheduled = false;
  #navigating = false;
  #parsed = false;
  #reloads = 0;
  #phase: 'loading' | 'shown' | 'over' = 'loading';

  constructor(
    session: CDPSession,
    private readonly mainFrame: string,
  ) {
    session.on('Page.frameScheduledNavigation', ({ frameId, delay }) => {
      if (this.#isMain(frameId) && delay < atOnceSeconds) this.#scheduled = true;
    });
    session.on('Page.frameClearedScheduledNavigation', ({ frameId }) => {
      if (this.#isMain(frameId)) this.#scheduled = false;
    });
    session.on('Page.frameStartedNavigating', ({ frameId, navigationType }) => {
      if (this.#isMain(frameId) && !/^(sameDocument|historySameDocument)$/.test(navigationType))
        this.#navigating = true;
    });
    session.on('Page.frameNavigated', ({ frame }) => {
      // A tab begins with an empty document.
      if (!this.#isMain(frame.id) || (this.landed === '' && frame.url === 'about:blank')) return;
      this.landed = frame.url;
      this.#navigating = false;
      this.#parsed = false;
    });
    session.on('Page.frameStoppedLoading', ({ frameId }) => {
      // A page that was on its way elsewhere is parsed no further, not even when nothing came of it.
      if (this.#isMain(frameId) && !this.#navigating) this.#read();
    });
    session.on('Page.domContentEventFired', () => this.#read());
  }

  #read(): void {
    if (this.landed !== '') this.#parsed = true;
  }

  /** Whether the page went on loading itself anew, so that it had to be held where it is. */
  get loops(): boolean {
    return this.#reloads > mostReloads;
  }

  /** The document that a visitor is shown; empty where there is none. */
  get destination(): string {
    return this.ledTo ?? this.landed;
  }

  /** Whether the document that is shown is parsed. */
  get parsed(): boolean {
    return this.#parsed;
  }

  /** Whether a document is shown and parsed and no other one is on its way, or it is known where the page leads. */
  get settled(): boolean {
    return this.ledTo !== undefined || (this.#parsed && !this.#scheduled && !this.#navigating);
  }

  /** From here on the page is looked at: it may still lead elsewhere, but not load itself anew. */
  looked(): void {
    this.#phase = 'shown';
  }

  /** From here on a visitor has seen the page, wherever it leads after that. */
  close(): void {
    this.#phase = 'over';
  }

  /** Whether a document may be asked for, and shown once its answer is there. */
  decide(request: DocumentRequest): DocumentDecision {
    const decision = this.#isMain(request.frameId) ? this.#decide(request) : 'continue';
    if (decision === 'stop') this.#navigating = false;
    return decision;
  }

  #decide({ url, status, headers = [] }: DocumentRequest): DocumentDecision {
    if (this.landed === '') return 'continue';
    if (this.#phase === 'over' || this.ledTo !== undefined) return 'stop';
    if (sameDocument(url, this.landed)) {
      // Asked twice for each: at its beginning and at its answer.
      if (status === undefined) this.#reloads++;
      if (this.#phase === 'loading' && this.#reloads <= mostReloads) return 'continue';
      // Its parser may have stopped for the next one: nothing tells when it has read all that it will.
      setTimeout(() => this.#read(), partlyReadMs).unref();
      return 'stop';
    }
    if (status === undefined || isRedirect(status, headers)) return 'continue';
    if (isShown(status, headers)) {
      this.ledTo = url;
      return 'stop';
    }
    // Nothing comes of it: the page stays.
    this.#navigating = false;
    return 'continue';
  }

  /** A document of a host that may not be asked is where the page leads all the same. */
  refuse({ frameId, url }: DocumentRequest): void {
    if (this.#isMain(frameId) && this.landed !== '' && this.#phase !== 'over') this.ledTo ??= url;
  }

  #isMain(frameId: string): boolean {
    return frameId === this.mainFrame;
  }
}

type Headers = NonNullable<DocumentRequest['headers']>;

const valueOf = (headers: Headers, name: string) =>
  headers.find((header) => header.name.toLowerCase() === name)?.value ?? '';

const isRedirect = (status: number, headers: Headers) =>
  status >= 300 && status < 400 && valueOf(headers, 'location') !== '';

/** Answers without content and files to keep leave the page as it is. */
function isShown(status: number, headers: Headers): boolean {
  const isEmpty = status === 204 || status === 205;
  const isKept =
    /^\s*attachment/i.test(valueOf(headers, 'content-disposition')) ||
    /zip|octet-stream|x-tar|msdownload/i.test(valueOf(headers, 'content-type'));
  return !isEmpty && !isKept;
}

/** Whether two addresses name one document, whatever their query and fragment. */
export function sameDocument(one: string, other: string): boolean {
  const path = (url: string) =>
    URL.canParse(url) ? new URL(url).origin + new URL(url).pathname.replace(/\/index\.html?$/, '/') : url;
  return path(one) === path(other);
}
