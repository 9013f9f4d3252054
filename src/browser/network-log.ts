import type { CDPSession } from 'playwright-core';

export interface LoggedRequest {
  url: string;
  /** Resource type in the browser's words: Document, Image, Stylesheet, … */
  resource: string;
  mimeType: string;
  status: number;
  /** Encoded body, bytes. */
  bytes: number;
  began: 'first-view' | 'scrolled';
  scrollDepth: number;
  state: 'running' | 'finished' | 'failed';
  failure?: string;
}

interface OpenRequest extends LoggedRequest {
  headerBytes: number;
}

/** What goes on for as long as a page is open: neither images nor layout wait for it. */
const endless: ReadonlySet<string> = new Set(['Media', 'EventSource', 'Ping']);

/** Follows every request of a page over the DevTools protocol and knows which are still under way. */
export class NetworkLog {
  readonly #byId = new Map<string, OpenRequest>();
  readonly #held = new Set<string>();
  #position: Pick<LoggedRequest, 'began' | 'scrollDepth'> = { began: 'first-view', scrollDepth: 0 };
  #started = 0;

  constructor(session: CDPSession) {
    session.on('Network.requestWillBeSent', ({ requestId, request, type }) => {
      // A redirect reuses the id: the first address is the one that the markup asked for.
      if (!/^https?:/.test(request.url) || this.#byId.has(requestId)) return;
      if (!endless.has(type ?? '')) this.#started++;
      this.#byId.set(requestId, {
        url: request.url,
        resource: type ?? 'Other',
        mimeType: '',
        status: 0,
        bytes: 0,
        headerBytes: 0,
        state: 'running',
        ...this.#position,
      });
    });
    session.on('Network.responseReceived', ({ requestId, response, type }) => {
      const request = this.#byId.get(requestId);
      if (!request) return;
      request.resource = type;
      request.mimeType = response.mimeType;
      request.status = response.status;
      request.headerBytes = response.encodedDataLength;
    });
    session.on('Network.requestServedFromCache', ({ requestId }) => this.#byId.delete(requestId));
    session.on('Network.loadingFinished', ({ requestId, encodedDataLength }) => {
      const request = this.#byId.get(requestId);
      if (!request) return;
      request.bytes = Math.max(0, Math.round(encodedDataLength - request.headerBytes));
      request.state = 'finished';
    });
    session.on('Network.loadingFailed', ({ requestId, errorText, blockedReason, canceled }) => {
      const request = this.#byId.get(requestId);
      if (!request) return;
      request.state = 'failed';
      request.failure = blockedReason ?? (canceled ? 'cancelled' : errorText);
    });
  }

  /** Says where the visitor is now; requests that begin from here on are logged with it. */
  moveTo(scrollDepth: number): void {
    this.#position = { began: 'scrolled', scrollDepth };
  }

  hold(requestId: string): void {
    this.#held.add(requestId);
  }

  /** @param requestId all requests if left out */
  release(requestId?: string): void {
    if (requestId === undefined) this.#held.clear();
    else this.#held.delete(requestId);
  }

  /** Requests begun so far: a change means that something is still happening. */
  get started(): number {
    return this.#started;
  }

  /** Requests under way that nobody is holding back and that end by themselves. */
  get running(): number {
    let count = 0;
    for (const [id, { state, resource }] of this.#byId)
      if (state === 'running' && !endless.has(resource) && !this.#held.has(id)) count++;
    return count;
  }

  requests(): LoggedRequest[] {
    return [...this.#byId.values()].map(({ headerBytes: _, ...request }) => request);
  }
}
