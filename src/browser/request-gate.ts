import type { CDPSession } from 'playwright-core';
import type { Departures } from './departures.js';
import type { NetworkLog } from './network-log.js';

export interface RequestPolicy {
  /** Whether a request to this URL may leave the machine's loopback site. */
  allows(url: string): boolean;
  onRefused(url: string): void;
}

/** Through which every request of a page goes: images are held until they are let through, other documents are stopped, other hosts refused. */
export class RequestGate {
  /** Image requests that wait, by the id of their pause. */
  readonly #held = new Map<string, { url: string; networkId: string | undefined }>();
  #holding = true;

  constructor(
    private readonly session: CDPSession,
    private readonly log: NetworkLog,
    departures: Departures,
    policy: RequestPolicy,
  ) {
    session.on('Fetch.requestPaused', (paused) => {
      const { requestId, networkId, request, resourceType } = paused;
      // The script of a shared worker: its end is told to the worker, not to the page.
      if (resourceType === 'Other') log.forget(request.url);
      const status = paused.responseStatusCode ?? (paused.responseErrorReason === undefined ? undefined : 0);
      const asked = { frameId: paused.frameId, url: request.url, status };
      const isDocument = resourceType === 'Document';
      if (log.ended) {
        void this.#tell('Fetch.failRequest', { requestId, errorReason: 'Aborted' });
      } else if (!policy.allows(request.url)) {
        policy.onRefused(request.url);
        if (isDocument) departures.refuse(asked);
        void this.#tell('Fetch.failRequest', { requestId, errorReason: 'BlockedByClient' });
      } else if (isDocument && departures.decide({ ...asked, headers: paused.responseHeaders }) === 'stop') {
        void this.#tell('Fetch.failRequest', { requestId, errorReason: 'Aborted' });
      } else if (this.#holding && resourceType === 'Image') {
        this.#held.set(requestId, { url: request.url, networkId });
        if (networkId) log.hold(networkId);
      } else {
        void this.#tell('Fetch.continueRequest', { requestId });
      }
    });
  }

  /** Stops every request of the page, and documents once more when their answer is there. */
  async close(): Promise<void> {
    await this.session.send('Fetch.enable', {
      patterns: [
        { urlPattern: '*', requestStage: 'Request' },
        { urlPattern: '*', resourceType: 'Document', requestStage: 'Response' },
      ],
    });
  }

  /** Lets the held images through, and holds none from here on. */
  async release(): Promise<void> {
    this.#holding = false;
    this.log.release();
    const ids = [...this.#held.keys()];
    this.#held.clear();
    await Promise.all(ids.map((requestId) => this.#tell('Fetch.continueRequest', { requestId })));
  }

  /**
   * Lets the held images with one address through, and goes on holding the others.
   * @returns whether there were any
   */
  async releaseOnly(url: string): Promise<boolean> {
    const own = [...this.#held].filter(([, held]) => held.url === url);
    for (const [requestId, { networkId }] of own) {
      this.#held.delete(requestId);
      if (networkId) this.log.release(networkId);
    }
    await Promise.all(own.map(([requestId]) => this.#tell('Fetch.continueRequest', { requestId })));
    return own.length > 0;
  }

  /** Forgets images that a document had asked for which was left. */
  drop(networkIds: ReadonlySet<string>): void {
    for (const [id, { networkId }] of this.#held)
      if (networkId !== undefined && networkIds.has(networkId)) this.#held.delete(id);
  }

  /** Commands to a page that may be gone: the visit learns of that elsewhere. */
  async #tell(method: 'Fetch.continueRequest', params: { requestId: string }): Promise<void>;
  async #tell(
    method: 'Fetch.failRequest',
    params: { requestId: string; errorReason: 'BlockedByClient' | 'Aborted' },
  ): Promise<void>;
  async #tell(method: string, params: object): Promise<void> {
    await (this.session.send as (method: string, params: object) => Promise<unknown>)
      .call(this.session, method, params)
      .catch(() => undefined);
  }
}
