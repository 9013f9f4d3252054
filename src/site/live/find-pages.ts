import { readFile } from 'node:fs/promises';
import picomatch from 'picomatch';
import robotsModule from 'robots-parser';
import { causeInWords } from '../../core/wording/words.js';
import { SiteError } from '../errors.js';
import { readText } from '../read-text.js';
import { isAnswered, isPage, mediaTypeOf, redirectOf, type Answer } from './answer.js';
import { readLinks } from './links.js';
import { isNoPage, plainAddress } from './page-address.js';
import { acceptedBy } from './page-request.js';
import type { Received } from './received.js';
import { readSitemap } from './sitemap.js';

export interface PageWishes {
  /** Absolute addresses of one origin to begin with. */
  starts: readonly string[];
  /** Address or file of a sitemap. */
  sitemap: string | undefined;
  /** How many links away pages may be; undefined follows none. */
  follow: number | undefined;
  /** Globs of paths. */
  skip: readonly string[];
  keep: readonly string[];
  mostPages: number;
  ignoreRobots: boolean;
  /** The path below which links are followed. */
  within: string;
  /** Once aborted no more pages are asked for. */
  signal?: AbortSignal | undefined;
  progress?: FindingProgress | undefined;
}

/** Told how many addresses are asked for, and each that has answered. */
export interface FindingProgress {
  begin(stage: string, total: number): void;
  step(what?: string): void;
}

export interface FoundPages {
  /** Answers that are pages, by address. */
  pages: Answer[];
  redirected: { from: string; to: string }[];
  /** What is not audited, by its address. */
  problems: { address: string; why: string }[];
}

/** Its types tell of a module of the other form. */
const robotsParser = robotsModule as unknown as typeof robotsModule.default;
type Robots = ReturnType<typeof robotsParser>;

const headers = { accept: acceptedBy.document };
const mostSitemaps = 200;

/** Finds the pages of a site at an address: those that are named, those of a sitemap, those that links lead to. */
export class PageFinder {
  readonly #problems: FoundPages['problems'] = [];
  /** Addresses by what their server fails with. */
  readonly #failures = new Map<string, string[]>();
  #robots: Promise<Robots | undefined> | undefined;
  readonly #redirected = new Map<string, string>();
  readonly #pages = new Map<string, Answer>();
  readonly #canonical = new Map<string, string>();
  readonly #wanted: (path: string) => boolean;
  #forbidden = 0;

  constructor(
    readonly received: Received,
    readonly origin: string,
    readonly wishes: PageWishes,
  ) {
    const { keep, skip } = wishes;
    const keeps = keep.length > 0 ? picomatch([...keep], { dot: true }) : () => true;
    const skips = skip.length > 0 ? picomatch([...skip], { dot: true }) : () => false;
    this.#wanted = (path) => keeps(path) && !skips(path);
  }

  /** @throws {SiteError} when a sitemap that was named cannot be read */
  async find(): Promise<FoundPages> {
    const { starts, sitemap, follow, mostPages } = this.wishes;
    let level = [...new Set([...starts, ...(sitemap === undefined ? [] : await this.#ofSitemap(sitemap))])];
    const known = new Set(level);
    let left = 0;
    for (let depth = 0; level.length > 0; depth++) {
      if (this.wishes.signal?.aborted) break;
      const room = mostPages - this.#pages.size;
      left += Math.max(0, level.length - room);
      const asked = level.slice(0, Math.max(0, room));
      this.wishes.progress?.begin('pages', asked.length);
      const links = await Promise.all(
        asked.map((address) =>
          this.#look(address).finally(() => this.wishes.progress?.step(new URL(address).pathname)),
        ),
      );
      if (follow === undefined || depth >= follow) break;
      level = (await this.#allowed(links.flat())).filter((address) => !known.has(address));
      for (const address of level) known.add(address);
    }
    this.#tellOfLeft(left);
    return {
      pages: this.#counted(),
      redirected: [...this.#redirected].map(([from, to]) => ({ from, to })),
      problems: [...this.#problems, ...[...this.#failures].map(toldOnce)],
    };
  }

  #note(address: string, why: string): void {
    this.#problems.push({ address, why });
  }

  /** What a server fails with on many pages is told once. */
  #failed(address: string, why: string): void {
    this.#failures.set(why, [...(this.#failures.get(why) ?? []), address]);
  }

  /** Asks for a page, and gives the links that it has. */
  async #look(address: string): Promise<string[]> {
    const isOwn = (url: string) => url.startsWith(`${this.origin}/`);
    const outcome = await this.received.follow(address, headers, isOwn);
    if (!isAnswered(outcome)) {
      this.#failed(address, `it does not answer: ${outcome.failure}`);
      return [];
    }
    const elsewhere = redirectOf(outcome);
    if (elsewhere !== undefined) this.#note(address, `it leads to ${elsewhere}, which is of another site`);
    else if (outcome.status >= 400) {
      const why = `it answers with ${outcome.status} and is not judged`;
      if (outcome.status >= 500 || outcome.status === 429) this.#failed(address, why);
      else this.#note(address, why);
    } else if (!isPage(outcome)) {
      if (this.wishes.starts.includes(address))
        this.#note(address, `it is no page but ${mediaTypeOf(outcome) || 'of no type'}`);
    } else return this.#take(address, await this.#asFolder(outcome));
    return [];
  }

  async #take(asked: string, page: Answer): Promise<string[]> {
    if (page.url !== asked) this.#redirected.set(asked, page.url);
    if (this.#pages.has(page.url)) return [];
    this.#pages.set(page.url, page);
    const { links, canonical } = readLinks(
      readText(await this.received.bodyOf(page)),
      page.url,
      this.wishes.ignoreRobots,
    );
    if (canonical !== undefined) this.#canonical.set(page.url, plainAddress(new URL(canonical)));
    return links
      .filter((link) => link.origin === this.origin && link.pathname.startsWith(this.wishes.within))
      .filter((link) => !isNoPage(link) && this.#wanted(link.pathname))
      .map(plainAddress);
  }

  /** A page that answers under the name of its folder too goes by that, as static hosts name it. */
  async #asFolder(page: Answer): Promise<Answer> {
    const folder = /^([^?#]*\/)index\.html?$/i.exec(page.url)?.[1];
    if (folder === undefined) return page;
    const outcome = await this.received.ask(folder, headers);
    return isAnswered(outcome) && outcome.status === 200 && outcome.hash === page.hash ? outcome : page;
  }

  /** Addresses that robots.txt lets be asked, each once and sorted. RFC 9309. */
  async #allowed(addresses: readonly string[]): Promise<string[]> {
    const sorted = [...new Set(addresses)].sort();
    if (this.wishes.ignoreRobots || sorted.length === 0) return sorted;
    const robots = await (this.#robots ??= this.#readRobots());
    const allowed = sorted.filter((address) => robots?.isDisallowed(address, 'yukkuri') !== true);
    this.#forbidden += sorted.length - allowed.length;
    return allowed;
  }

  async #readRobots(): Promise<Robots | undefined> {
    const place = `${this.origin}/robots.txt`;
    const outcome = await this.received.follow(place, {}, (url) => url.startsWith(`${this.origin}/`));
    if (!isAnswered(outcome) || outcome.status !== 200) return undefined;
    return robotsParser(place, readText(await this.received.bodyOf(outcome)));
  }

  #tellOfLeft(left: number): void {
    if (left > 0)
      this.#note(
        this.origin,
        `${left} more addresses are not asked: --most-pages is ${this.wishes.mostPages}`,
      );
    if (this.#forbidden > 0)
      this.#note(
        this.origin,
        `${this.#forbidden} addresses are not followed: robots.txt asks for that (--ignore-robots follows them)`,
      );
  }

  /** Pages without those that name another one of them as the one to count. */
  #counted(): Answer[] {
    const sorted = [...this.#pages].sort(([a], [b]) => (a < b ? -1 : 1)).map(([, page]) => page);
    return sorted.filter(({ url }) => {
      const canonical = this.#canonical.get(url);
      const isCopy = canonical !== undefined && canonical !== url && this.#pages.has(canonical);
      if (isCopy) this.#redirected.set(url, canonical);
      return !isCopy;
    });
  }

  async #ofSitemap(place: string): Promise<string[]> {
    const found = new Set<string>();
    const waiting = [place];
    const seen = new Set(waiting);
    let foreign = 0;
    while (waiting.length > 0 && seen.size <= mostSitemaps) {
      const next = waiting.shift() ?? '';
      try {
        const { pages, sitemaps } = await readSitemap(await this.#contentOf(next));
        for (const each of sitemaps)
          if (URL.canParse(each) && !seen.has(each)) {
            seen.add(each);
            waiting.push(each);
          }
        for (const each of pages) {
          const url = URL.canParse(each) ? new URL(each) : undefined;
          if (url?.origin !== this.origin) foreign++;
          else if (this.#wanted(url.pathname)) found.add(plainAddress(url));
        }
      } catch (cause) {
        if (next === place)
          throw new SiteError('WRONG_SITEMAP', `The sitemap "${place}" ${causeInWords(cause)}.`);
        this.#note(next, `this part of the sitemap ${causeInWords(cause)}`);
      }
    }
    if (foreign > 0)
      this.#note(place, `${foreign} addresses of the sitemap are not of ${this.origin}, and are not asked`);
    return [...found].sort();
  }

  async #contentOf(place: string): Promise<Buffer> {
    if (!/^https?:/i.test(place))
      return readFile(place).catch((cause: unknown) => {
        throw new Error(`cannot be read: ${causeInWords(cause)}`, { cause });
      });
    const origin = new URL(place).origin;
    const outcome = await this.received.follow(place, {}, (url) => url.startsWith(`${origin}/`));
    if (!isAnswered(outcome)) throw new Error(`does not answer: ${outcome.failure}`);
    if (outcome.status !== 200) throw new Error(`answers with ${outcome.status}`);
    return this.received.bodyOf(outcome);
  }
}

/** With how many more pages it cost. */
function toldOnce([why, addresses]: [string, string[]]): FoundPages['problems'][number] {
  const more = addresses.length - 1;
  return { address: addresses[0] ?? '', why: more === 0 ? why : `${why}; so it is with ${more} more` };
}
