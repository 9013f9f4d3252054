import { subscribe, unsubscribe } from 'node:diagnostics_channel';
import { setTimeout as pause } from 'node:timers/promises';
import { promisify } from 'node:util';
import { brotliDecompress, gunzip, inflate } from 'node:zlib';
import pLimit, { type LimitFunction } from 'p-limit';
import { CookieJar } from 'tough-cookie';
import { Agent, request } from 'undici';
import type { Credentials } from './credentials.js';
import { failureInWords } from './failures.js';
import { lookupOutside } from './reachable.js';

export interface ClientOptions {
  /** Origin of the audited site; empty for a folder, which asks only other hosts. */
  origin: string;
  credentials: Credentials;
  /** Whether certificates that nobody vouches for are taken, of the audited site. */
  insecure: boolean;
  /** Requests at once to one host. */
  atOnce: number;
  /** Between the beginnings of two requests to one host, ms. */
  pauseMs: number;
  /** Hosts of inner networks that may be asked all the same, as `host` or `host:port`. */
  trustsHost(url: URL): boolean;
}

export interface ClientRequest {
  url: string;
  method: string;
  headers: Readonly<Record<string, string>>;
  body?: string | undefined;
}

export interface ClientAnswer {
  status: number;
  headers: (readonly [string, string])[];
  body: Buffer;
  wireBytes: number;
  protocol: string;
}

/** The browser can be handed no more at once, bytes: its messages have at most 100 MiB, and bodies grow by a third in them. */
const mostBytes = 60_000_000;
/** One answer may take so long, ms. */
const longestAnswerMs = 30_000;
/** A host that asks for patience is given so much each time, ms, … */
const longestRetryMs = 60_000;
/** … and so often. */
const mostRetries = 3;

const decoders = {
  br: promisify(brotliDecompress),
  gzip: promisify(gunzip),
  'x-gzip': promisify(gunzip),
  deflate: promisify(inflate),
};

/** What is asked of servers, with the patience and the manners that they ask for. */
export class HttpClient {
  readonly jar = new CookieJar(undefined, { rejectPublicSuffixes: false, looseMode: true });
  readonly #own: Agent;
  readonly #others: Agent;
  readonly #limits = new Map<string, LimitFunction>();
  readonly #next = new Map<string, number>();
  readonly #protocols = new Map<string, string>();
  readonly #note = (message: unknown) => {
    const { connectParams, socket } = message as {
      connectParams: { protocol: string; host: string };
      socket: { alpnProtocol?: string | false };
    };
    if (socket.alpnProtocol)
      this.#protocols.set(`${connectParams.protocol}//${connectParams.host}`, socket.alpnProtocol);
  };

  constructor(readonly options: ClientOptions) {
    const patience = { headersTimeout: longestAnswerMs, bodyTimeout: longestAnswerMs, allowH2: true };
    this.#own = new Agent({
      ...patience,
      connect: { timeout: 10_000, rejectUnauthorized: !options.insecure },
    });
    this.#others = new Agent({ ...patience, connect: { timeout: 10_000, lookup: lookupOutside as never } });
    subscribe('undici:client:connected', this.#note);
  }

  /**
   * Asks once, and again later where the host wants that.
   * @throws {Error} saying why no answer came, for people
   */
  async ask(asked: ClientRequest): Promise<ClientAnswer> {
    const url = new URL(asked.url);
    for (let attempt = 0; ; attempt++) {
      const answer = await this.#inTurn(url, () => this.#once(url, asked)).catch((cause: unknown) => cause);
      if (!isAnswer(answer)) {
        const retried = attempt === 0 && isDropped(answer) && asked.method === 'GET';
        if (!retried) throw new Error(failureInWords(answer, url), { cause: answer });
        continue;
      }
      const later = attempt < mostRetries ? retryAfter(answer) : undefined;
      if (later === undefined) return answer;
      this.#next.set(url.host, Math.max(this.#next.get(url.host) ?? 0, performance.now() + later));
    }
  }

  async close(): Promise<void> {
    unsubscribe('undici:client:connected', this.#note);
    await Promise.all([this.#own.destroy(), this.#others.destroy()]);
  }

  #inTurn<Result>({ host }: URL, work: () => Promise<Result>): Promise<Result> {
    const limit = this.#limits.get(host) ?? pLimit(this.options.atOnce);
    this.#limits.set(host, limit);
    return limit(async () => {
      for (;;) {
        const now = performance.now();
        const due = this.#next.get(host) ?? 0;
        if (due <= now) break;
        await pause(due - now);
      }
      if (this.options.pauseMs > 0) this.#next.set(host, performance.now() + this.options.pauseMs);
      return work();
    });
  }

  async #once(url: URL, { method, headers, body }: ClientRequest): Promise<ClientAnswer> {
    const isOwn = url.origin === this.options.origin;
    const trusted = isOwn || this.options.trustsHost(url);
    const cookies = await this.jar.getCookieString(url.href);
    const given = await request(url, {
      method: method as 'GET',
      headers: {
        ...headers,
        'accept-encoding': 'gzip, deflate, br',
        ...(cookies === '' ? {} : { cookie: cookies }),
        ...(isOwn ? this.options.credentials.headers : {}),
      },
      ...(body === undefined ? {} : { body }),
      dispatcher: trusted ? this.#own : this.#others,
      signal: AbortSignal.timeout(longestAnswerMs),
    });
    const received = Object.entries(given.headers).flatMap(([name, value = '']) =>
      [value].flat().map((each) => [name.toLowerCase(), each] as const),
    );
    for (const [name, value] of received)
      if (name === 'set-cookie') await this.jar.setCookie(value, url.href).catch(() => undefined);
    const coded = await readLimited(given.body);
    const coding = received.find(([name]) => name === 'content-encoding')?.[1] ?? '';
    return {
      status: given.statusCode,
      headers: received,
      body: await decoded(coded, coding, method),
      wireBytes: coded.length,
      protocol: this.#protocols.get(`${url.protocol}//${url.host}`) ?? 'http/1.1',
    };
  }
}

const isAnswer = (outcome: unknown): outcome is ClientAnswer =>
  typeof outcome === 'object' && outcome !== null && 'wireBytes' in outcome;

/** A connection that was kept open may just have been closed by its server. */
const isDropped = (cause: unknown) =>
  cause instanceof Error && 'code' in cause && /^(ECONNRESET|EPIPE|UND_ERR_SOCKET)$/.test(String(cause.code));

async function readLimited(body: AsyncIterable<Buffer> & { destroy(): unknown }): Promise<Buffer> {
  const chunks: Buffer[] = [];
  let size = 0;
  for await (const chunk of body) {
    size += chunk.length;
    if (size > mostBytes) {
      body.destroy();
      throw new Error(`its body is larger than ${mostBytes / 1_000_000} MB`);
    }
    chunks.push(chunk);
  }
  return Buffer.concat(chunks, size);
}

async function decoded(body: Buffer, codings: string, method: string): Promise<Buffer> {
  let plain = body;
  if (method === 'HEAD' || body.length === 0) return plain;
  for (const coding of codings
    .split(',')
    .map((each) => each.trim().toLowerCase())
    .reverse()) {
    if (coding === '' || coding === 'identity') continue;
    if (!(coding in decoders)) throw new Error(`its content encoding "${coding}" was not asked for`);
    plain = await decoders[coding as keyof typeof decoders](plain, { maxOutputLength: mostBytes });
  }
  return plain;
}

/** RFC 9110, 10.2.3: seconds, or a date. So long is waited at most; undefined where the host does not ask for it. ms. */
function retryAfter({ status, headers }: ClientAnswer): number | undefined {
  const value = headers.find(([name]) => name === 'retry-after')?.[1];
  if ((status !== 429 && status !== 503) || value === undefined) return undefined;
  const ms = /^\d+$/.test(value) ? Number(value) * 1000 : Date.parse(value) - Date.now();
  return Number.isFinite(ms) && ms <= longestRetryMs ? Math.max(0, ms) : undefined;
}
