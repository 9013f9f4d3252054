import { createHash } from 'node:crypto';
import { readFile, writeFile } from 'node:fs/promises';
import { join } from 'node:path';
import { causeInWords } from '../../core/wording/words.js';
import { headerOf, isAnswered, redirectOf, type Answer, type Unanswered } from './answer.js';
import type { ServerAnswer } from '../server-answer.js';
import type { HttpClient } from './client.js';
import { acceptedBy } from './page-request.js';

/** What was asked with one address, by the headers that the answer depends on. RFC 9110, 12.5.5. */
interface Variant {
  /** Names of request headers, and what was sent. */
  asked: readonly (readonly [name: string, value: string])[];
  outcome: Answer | Unanswered;
}

type Headers = Readonly<Record<string, string>>;

/** What an answer depends on all the same for all who ask in one audit. */
const constant = /^(accept-encoding|cookie|user-agent|accept-language|origin|referer|authorization)$/;
const mostRedirects = 20;

/** Named as browsers are, so that servers answer as they answer this one, and by its own name. */
export const userAgentOf = (version: string) =>
  `Mozilla/5.0 (X11; Linux x86_64) AppleWebKit/537.36 (KHTML, like Gecko) Chrome/147.0.0.0 Safari/537.36 Yukkuri/${version}`;

/** What servers answered: each address is asked for once, whoever in an audit wants it. */
export class Received {
  readonly #variants = new Map<string, Variant[]>();
  readonly #asking = new Map<string, Promise<Answer | Unanswered>>();
  /** The last answer to each address. */
  readonly #known = new Map<string, Answer>();

  /** Hosts that were asked. */
  readonly hosts = new Set<string>();

  /** @param folder where bodies are put until the audit ends */
  constructor(
    readonly client: HttpClient,
    readonly folder: string,
    readonly userAgent: string,
  ) {}

  /** Addresses that were answered, sorted. */
  get addresses(): string[] {
    return [...this.#known.keys()].sort();
  }

  /** What answers an address with GET; asked for only the first time. */
  async ask(address: string, headers: Headers = {}): Promise<Answer | Unanswered> {
    const url = withoutFragment(address);
    const sent = this.#withUsual(headers);
    const variant = this.#variants
      .get(url)
      ?.find(({ asked }) => asked.every(([name, value]) => (sent[name] ?? '') === value));
    if (variant) return variant.outcome;
    const key = JSON.stringify([url, sent['accept']]);
    const asking = this.#asking.get(key) ?? this.#ask(url, sent).finally(() => this.#asking.delete(key));
    this.#asking.set(key, asking);
    return asking;
  }

  /** Sends what changes something, or may: never answered from what is known. */
  async send(address: string, method: string, headers: Headers, body?: string) {
    return this.client.ask({
      url: withoutFragment(address),
      method,
      headers: this.#withUsual(headers),
      body,
    });
  }

  /** The answer behind an address, redirects followed as far as they were asked for; undefined where none is known. */
  known(address: string): Answer | undefined {
    const last = this.chain(address).at(-1);
    return last && redirectOf(last) === undefined ? last : undefined;
  }

  /** The content behind an address; undefined where none is known, or an error came in its place. */
  contentAt(address: string): Answer | undefined {
    const answer = this.known(address);
    return answer && answer.status < 300 ? answer : undefined;
  }

  /** Why no answer came from an address, or from the one that it leads to, in words; undefined where one came, or nobody asked. */
  whyUnanswered(address: string): string | undefined {
    const last = this.chain(address).at(-1);
    const url = withoutFragment((last && redirectOf(last)) ?? address);
    if (this.#known.has(url)) return undefined;
    const outcome = this.#variants.get(url)?.at(-1)?.outcome;
    return outcome && !isAnswered(outcome) ? outcome.failure : undefined;
  }

  /** Asks for addresses as a page asks for images, and for those that they lead to. */
  async askForImages(addresses: Iterable<string>, mayAsk: (url: string) => boolean): Promise<void> {
    const all = [...new Set([...addresses].map(withoutFragment))].filter(mayAsk);
    await Promise.all(all.map((url) => this.follow(url, { accept: acceptedBy.image }, mayAsk)));
  }

  /** The answers on the way from an address to the one that it leads to, as far as they were asked for. */
  chain(address: string): Answer[] {
    const answers: Answer[] = [];
    let next: string | undefined = address;
    while (next !== undefined && answers.length <= mostRedirects) {
      const answer = this.#known.get(withoutFragment(next));
      if (!answer) break;
      answers.push(answer);
      next = redirectOf(answer);
    }
    return answers;
  }

  /** What the servers said on the way to the content of an address; undefined where there is none. */
  serverAnswer(address: string): ServerAnswer | undefined {
    const chain = this.chain(address);
    const last = chain.at(-1);
    if (!last || redirectOf(last) !== undefined) return undefined;
    const { headers, wireBytes, size, protocol } = last;
    const coding = headerOf(last, 'content-encoding') ?? '';
    return { headers, wireBytes, size, coding, protocol, redirects: chain.slice(1).map(({ url }) => url) };
  }

  /** Whether an address answers with another content to whom accepts only these types. */
  async differsFor(address: string, accept: string): Promise<boolean | undefined> {
    const last = this.known(address);
    if (!last) return undefined;
    const other = await this.send(last.url, 'GET', { accept }).catch(() => undefined);
    return other && other.status < 300 ? hashOf(other.body) !== last.hash : undefined;
  }

  /**
   * Asks for an address and for those that it leads to.
   * @param follows whether an address that a redirect names may be asked for
   */
  async follow(
    address: string,
    headers: Headers,
    follows: (url: string) => boolean,
  ): Promise<Answer | Unanswered> {
    let outcome = await this.ask(address, headers);
    for (let steps = 0; isAnswered(outcome); steps++) {
      const next = redirectOf(outcome);
      if (next === undefined || !follows(next)) return outcome;
      if (steps === mostRedirects)
        return { url: address, failure: `it is redirected more than ${mostRedirects} times` };
      outcome = await this.ask(next, headers);
    }
    return outcome;
  }

  bodyOf({ hash }: Pick<Answer, 'hash'>): Promise<Buffer> {
    return readFile(join(this.folder, hash));
  }

  async #ask(url: string, headers: Headers): Promise<Answer | Unanswered> {
    this.hosts.add(new URL(url).host);
    const outcome = await this.#outcomeOf(url, headers);
    const depends = isAnswered(outcome) ? namesIn(headerOf(outcome, 'vary') ?? '') : [];
    const asked = depends.map((name) => [name, headers[name] ?? ''] as const);
    this.#variants.set(url, [...(this.#variants.get(url) ?? []), { asked, outcome }]);
    if (isAnswered(outcome)) this.#known.set(url, outcome);
    return outcome;
  }

  async #outcomeOf(url: string, headers: Headers): Promise<Answer | Unanswered> {
    try {
      const {
        status,
        headers: given,
        body,
        wireBytes,
        protocol,
      } = await this.client.ask({ url, method: 'GET', headers });
      const hash = hashOf(body);
      await writeFile(join(this.folder, hash), body);
      return { url, status, headers: given, wireBytes, size: body.length, hash, protocol };
    } catch (cause) {
      return { url, failure: causeInWords(cause) };
    }
  }

  #withUsual(headers: Headers): Record<string, string> {
    const small = Object.entries(headers).map(([name, value]) => [name.toLowerCase(), value] as const);
    return {
      accept: acceptedBy.other,
      'accept-language': 'en-US,en;q=0.9',
      ...Object.fromEntries(
        small.filter(([name]) => !/^(user-agent|cookie|accept-encoding|host|connection)$/.test(name)),
      ),
      'user-agent': this.userAgent,
    };
  }
}

const hashOf = (body: Buffer) => createHash('sha256').update(body).digest('hex');

export const withoutFragment = (address: string): string => address.replace(/#.*$/s, '');

const namesIn = (vary: string): string[] =>
  vary
    .split(',')
    .map((each) => each.trim().toLowerCase())
    .filter((name) => name !== '' && name !== '*' && !constant.test(name));
