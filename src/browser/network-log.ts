import type { CDPSession } from 'puppeteer-core';

/** What began a request: the first view, a scroll, or the page by itself, later or for another page. */
export type RequestBegan = 'first-view' | 'scrolled' | 'by-itself';

export interface LoggedRequest {
  url: string;
  /** Resource type in the browser's words: Document, Image, Stylesheet, … */
  resource: string;
  mimeType: string;
  status: number;
  /** Encoded body, bytes; of an unfinished transfer what has come of it. */
  bytes: number;
  began: RequestBegan;
  scrollDepth: number;
  state: 'running' | 'finished' | 'failed';
  failure?: string;
}

interface OpenRequest extends LoggedRequest {
  headerBytes: number;
  /** Bytes on the wire so far. */
  receivedBytes: number;
  /** Whether it was asked for in advance, for a page that may come next. */
  inAdvance: boolean;
  fromCache: boolean;
  /** Whether images or layout may wait for it. */
  awaited: boolean;
  startedMs: number;
  /** When it was let through, or bytes of it came. */
  movedMs: number;
  /** The document that it belongs to. */
  loaderId: string;
}

/** What images and layout can wait for. All else (sounds, sockets, beacons, workers) may go on for as long as the page is open. */
const awaitedTypes: ReadonlySet<string> = new Set(['Document', 'Stylesheet', 'Script', 'Font', 'Image']);
/** What scripts ask for may bring content, … */
const scriptTypes: ReadonlySet<string> = new Set(['XHR', 'Fetch']);
/** … but not what is asked for so often, … */
const mostRepeats = 3;
/** … nor what stays open so long: that waits for news. */
const longestAnswerMs = 3000;

/** Follows every request of a page over the DevTools protocol and knows which are still under way. */
export class NetworkLog {
  readonly #byId = new Map<string, OpenRequest>();
  readonly #held = new Set<string>();
  /** Bytes of bodies on the wire, where not the browser asked for them; they may be told before the request is. */
  readonly #given = new Map<string, number>();
  /** How often scripts asked for each address, whatever its query. */
  readonly #asked = new Map<string, number>();
  #position: Pick<LoggedRequest, 'began' | 'scrollDepth'> = { began: 'first-view', scrollDepth: 0 };
  #started = 0;
  #startedByScripts = 0;
  /** When anything came last of what pages are shown without, `performance.now`. */
  #movedMs = 0;
  #ended = false;

  constructor(session: CDPSession) {
    session.on('Network.requestWillBeSent', ({ requestId, request, type, loaderId, initiator }) => {
      // A redirect reuses the id: the first address is the one that the markup asked for.
      if (this.#ended || !/^https?:/.test(request.url) || this.#byId.has(requestId)) return;
      const inAdvance = type === 'Prefetch' || isForAnotherPage(request.headers);
      const awaited = !inAdvance && this.#isAwaited(type ?? 'Other', request.url);
      if (awaited) this.#started++;
      if (awaited && initiator.type !== 'parser') this.#startedByScripts++;
      this.#byId.set(requestId, {
        url: request.url,
        resource: type ?? 'Other',
        mimeType: '',
        status: 0,
        bytes: 0,
        headerBytes: 0,
        receivedBytes: 0,
        state: 'running',
        inAdvance,
        fromCache: false,
        awaited,
        startedMs: performance.now(),
        movedMs: performance.now(),
        loaderId,
        ...this.#position,
        ...(inAdvance ? { began: 'by-itself' } : {}),
      });
    });
    session.on('Network.responseReceived', ({ requestId, response, type }) => {
      const request = this.#byId.get(requestId);
      if (!request) return;
      if (!request.inAdvance) request.resource = type;
      request.mimeType = response.mimeType;
      request.status = response.status;
      request.headerBytes = response.encodedDataLength;
      request.fromCache = response.fromDiskCache === true || response.fromPrefetchCache === true;
    });
    session.on('Network.dataReceived', ({ requestId, encodedDataLength }) => {
      const request = this.#byId.get(requestId);
      if (!request) return;
      request.receivedBytes += encodedDataLength;
      this.#moved(request);
    });
    session.on('Network.requestServedFromCache', ({ requestId }) => {
      const request = this.#byId.get(requestId);
      if (request) request.fromCache = true;
    });
    session.on('Network.loadingFinished', ({ requestId, encodedDataLength }) => {
      const request = this.#byId.get(requestId);
      if (!request) return;
      request.bytes =
        this.#given.get(requestId) ?? Math.max(0, Math.round(encodedDataLength - request.headerBytes));
      request.state = 'finished';
      this.#moved(request);
    });
    session.on('Network.loadingFailed', ({ requestId, errorText, blockedReason, canceled }) => {
      const request = this.#byId.get(requestId);
      if (!request) return;
      request.state = 'failed';
      request.failure = blockedReason ?? (canceled ? 'cancelled' : errorText);
    });
  }

  #moved(request: OpenRequest): void {
    request.movedMs = performance.now();
    if (shownWithout.has(request.resource)) this.#movedMs = request.movedMs;
  }

  #isAwaited(type: string, url: string): boolean {
    if (!scriptTypes.has(type)) return awaitedTypes.has(type);
    const address = url.replace(/[?#].*$/s, '');
    const asked = (this.#asked.get(address) ?? 0) + 1;
    this.#asked.set(address, asked);
    return asked <= mostRepeats;
  }

  /** Says where the visitor is now; requests that begin from here on are logged with it. */
  moveTo(scrollDepth: number): void {
    this.#position = { began: 'scrolled', scrollDepth };
  }

  /** From here on, until the next move, the page asks by itself: nobody scrolled, and it was quiet. */
  leaveAlone(): void {
    this.#position = { ...this.#position, began: 'by-itself' };
  }

  /** Says that nothing waits for what is asked for at an address: it is for others than the page. */
  forget(url: string): void {
    for (const request of this.#byId.values())
      if (request.url === url && request.resource === 'Script') request.awaited = false;
  }

  /** What is asked for from here on is none of the page’s own. */
  end(): void {
    this.#ended = true;
  }

  get ended(): boolean {
    return this.#ended;
  }

  /**
   * Says that a document was left: what it asked for is nobody’s any more.
   * @returns the ids of its requests
   */
  leave(loaderId: string): ReadonlySet<string> {
    const gone = new Set([...this.#byId].flatMap(([id, each]) => (each.loaderId === loaderId ? [id] : [])));
    for (const id of gone) {
      this.#byId.delete(id);
      this.#held.delete(id);
    }
    return gone;
  }

  /** Says how many bytes the body of an answer had on the wire that was fetched in the place of the browser. */
  answered(requestId: string, bytes: number): void {
    this.#given.set(requestId, bytes);
  }

  hold(requestId: string): void {
    this.#held.add(requestId);
  }

  /** @param requestId all requests if left out */
  release(requestId?: string): void {
    for (const id of requestId === undefined ? [...this.#held] : [requestId]) {
      this.#held.delete(id);
      const request = this.#byId.get(id);
      if (request) request.movedMs = performance.now();
    }
  }

  /** Requests begun so far that something may wait for: a change means that something is still happening. */
  get started(): number {
    return this.#started;
  }

  /** Those of them that do not stand in the page as it was served: there is an end to these, however long they take. */
  get startedByScripts(): number {
    return this.#startedByScripts;
  }

  /** Requests under way that nobody is holding back, and that images or layout may wait for. */
  get running(): number {
    let count = 0;
    for (const [id, request] of this.#byId)
      if (request.state === 'running' && !this.#held.has(id) && isStillAwaited(request, this.#movedMs))
        count++;
    return count;
  }

  /** Ids of the requests for scripts that have come and are no larger than so many bytes. */
  scripts(mostBytes: number): string[] {
    return [...this.#byId].flatMap(([id, { resource, state, bytes }]) =>
      resource === 'Script' && state === 'finished' && bytes <= mostBytes ? [id] : [],
    );
  }

  /** The transfers, in the order in which they began. What a cache answered is none; it makes one in advance one of this page. */
  requests(): LoggedRequest[] {
    const transfers: OpenRequest[] = [];
    const first = new Map<string, OpenRequest>();
    for (const request of this.#byId.values()) {
      const known = first.get(request.url);
      if (known && request.fromCache && request.bytes === 0) {
        if (known.inAdvance && !request.inAdvance) {
          const { resource, began, scrollDepth } = request;
          Object.assign(known, { resource, began, scrollDepth, inAdvance: false });
        }
        continue;
      }
      if (request.fromCache && request.bytes === 0 && request.state !== 'failed') continue;
      const transfer = { ...request };
      if (!known) first.set(request.url, transfer);
      transfers.push(transfer);
    }
    return transfers.map(toLogged);
  }
}

/** Fetch metadata and RFC 8297 tell what a request is for. */
const isForAnotherPage = (headers: Readonly<Record<string, string>>) =>
  Object.entries(headers).some(([name, value]) => /^(sec-)?purpose$/i.test(name) && /prefetch/i.test(value));

/** @param othersMovedMs when anything came of other images: a browser asks for a few at a time, and the next wait their turn */
function isStillAwaited(
  { awaited, resource, startedMs, movedMs, status }: OpenRequest,
  othersMovedMs: number,
): boolean {
  const now = performance.now();
  if (!awaited || (scriptTypes.has(resource) && now - startedMs >= longestAnswerMs)) return false;
  const lastMs = status === 0 ? Math.max(movedMs, othersMovedMs) : movedMs;
  return !shownWithout.has(resource) || now - lastMs < stalledMs;
}

/** Pages are shown without these; … */
const shownWithout: ReadonlySet<string> = new Set(['Image', 'Font']);
/** … of what has not moved for so long nothing more is expected, ms. */
const stalledMs = 5000;

function toLogged(request: OpenRequest): LoggedRequest {
  const { url, resource, mimeType, status, began, scrollDepth, state, failure } = request;
  const bytes = state === 'running' ? request.receivedBytes : request.bytes;
  return {
    url,
    resource,
    mimeType,
    status,
    bytes,
    began,
    scrollDepth,
    state,
    ...(failure === undefined ? {} : { failure }),
  };
}
