import type { CDPSession } from 'puppeteer-core';
import type { Departures } from './departures.js';
import type { NetworkLog } from './network-log.js';
import type { AnswerTo, AskedRequest, GivenAnswer } from './page-access.js';

export interface RequestPolicy {
  /** Whether a request to this URL may leave the machine's loopback site. */
  allows(url: string): boolean;
  onRefused(url: string): void;
  /** Answers in the place of the network; undefined where the browser asks the servers itself. */
  answer?: AnswerTo | undefined;
}

interface PausedRequest extends AskedRequest {
  requestId: string;
  networkId: string | undefined;
  frameId: string;
}

/** Through which every request of a page goes: images are held until they are let through, other documents are stopped, other hosts refused. */
export class RequestGate {
  /** Image requests that wait, by the id of their pause. */
  readonly #held = new Map<string, PausedRequest>();
  #holding = true;

  constructor(
    private readonly session: CDPSession,
    private readonly log: NetworkLog,
    private readonly departures: Departures,
    private readonly policy: RequestPolicy,
  ) {
    session.on('Fetch.requestPaused', (paused) => {
      const { requestId, networkId, request, resourceType } = paused;
      // The script of a shared worker: its end is told to the worker, not to the page.
      if (resourceType === 'Other') log.forget(request.url);
      const status = paused.responseStatusCode ?? (paused.responseErrorReason === undefined ? undefined : 0);
      const asked = { frameId: paused.frameId, url: request.url, status };
      const isDocument = resourceType === 'Document';
      const whole = {
        requestId,
        networkId,
        frameId: paused.frameId,
        url: request.url,
        method: request.method,
        headers: request.headers,
        body: request.postData,
        resource: resourceType,
      };
      if (log.ended) {
        void this.#tell('Fetch.failRequest', { requestId, errorReason: 'Aborted' });
      } else if (!policy.allows(request.url)) {
        policy.onRefused(request.url);
        if (isDocument) departures.refuse(asked);
        void this.#tell('Fetch.failRequest', { requestId, errorReason: 'BlockedByClient' });
      } else if (isDocument && departures.decide({ ...asked, headers: paused.responseHeaders }) === 'stop') {
        void this.#tell('Fetch.failRequest', { requestId, errorReason: 'Aborted' });
      } else if (this.#holding && resourceType === 'Image') {
        this.#held.set(requestId, whole);
        if (networkId) log.hold(networkId);
      } else {
        // At the answer to a document it is let through as it came.
        void (status === undefined
          ? this.#letThrough(whole)
          : this.#tell('Fetch.continueRequest', { requestId }));
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
    const all = [...this.#held.values()];
    this.#held.clear();
    await Promise.all(all.map((asked) => this.#letThrough(asked)));
  }

  /** Whether images with an address were asked for and are held. */
  holds(url: string): boolean {
    return [...this.#held.values()].some((held) => held.url === url);
  }

  /** Lets the held images with one address through, and goes on holding the others. */
  async releaseOnly(url: string): Promise<void> {
    const own = [...this.#held].filter(([, held]) => held.url === url);
    for (const [requestId, { networkId }] of own) {
      this.#held.delete(requestId);
      if (networkId) this.log.release(networkId);
    }
    await Promise.all(own.map(([, asked]) => this.#letThrough(asked)));
  }

  /** Forgets images that a document had asked for which was left. */
  drop(networkIds: ReadonlySet<string>): void {
    for (const [id, { networkId }] of this.#held)
      if (networkId !== undefined && networkIds.has(networkId)) this.#held.delete(id);
  }

  /** Lets the network answer, or whoever stands in its place. */
  async #letThrough(asked: PausedRequest): Promise<void> {
    const answer = /^https?:/.test(asked.url) ? this.policy.answer?.(asked) : undefined;
    if (answer) void this.#fulfil(asked, answer);
    else await this.#tell('Fetch.continueRequest', { requestId: asked.requestId });
  }

  async #fulfil(asked: PausedRequest, answer: NonNullable<ReturnType<AnswerTo>>): Promise<void> {
    const { requestId, networkId, frameId, url } = asked;
    const given = await answer.catch((cause: unknown) => ({ failure: String(cause) }));
    if ('failure' in given) {
      await this.#tell('Fetch.failRequest', { requestId, errorReason: 'Failed' });
      return;
    }
    const { status, headers } = given;
    const isDocument = asked.resource === 'Document';
    if (isDocument && this.departures.decide({ frameId, url, status, headers }) === 'stop') {
      await this.#tell('Fetch.failRequest', { requestId, errorReason: 'Aborted' });
      return;
    }
    if (networkId) this.log.answered(networkId, given.wireBytes);
    await this.#tell('Fetch.fulfillRequest', {
      requestId,
      responseCode: status,
      responseHeaders: plainHeaders(given),
      body: given.body.toString('base64'),
    });
  }

  /** Commands to a page that may be gone: the visit learns of that elsewhere. */
  async #tell(method: 'Fetch.continueRequest', params: { requestId: string }): Promise<void>;
  async #tell(
    method: 'Fetch.failRequest',
    params: { requestId: string; errorReason: 'BlockedByClient' | 'Aborted' | 'Failed' },
  ): Promise<void>;
  async #tell(method: 'Fetch.fulfillRequest', params: object): Promise<void>;
  async #tell(method: string, params: object): Promise<void> {
    await (this.session.send as (method: string, params: object) => Promise<unknown>)
      .call(this.session, method, params)
      .catch(() => undefined);
  }
}

/** The body is given decoded and whole. */
const plainHeaders = ({ headers }: GivenAnswer) =>
  headers.filter(
    ({ name }) => !/^(content-encoding|content-length|transfer-encoding|connection)$/i.test(name),
  );
