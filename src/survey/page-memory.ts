import { keyOf, pruneCache, type KeptValues } from '../cache/index.js';
import type { AskedRequest, GateWatch } from '../browser/index.js';
import type { HashedFile, Site } from '../site/index.js';
import { withoutPort, withPort } from './any-port.js';
import type { SiteUrls } from './site-urls.js';

/** So many ways in which a page was answered are remembered: a site and its mended copies, or branches that one goes back and forth between. */
const mostWays = 6;

/** What is being looked at. */
export interface Look {
  /** What is done there: a visit, a sweep, a look without script. */
  what: string;
  /** URL path of the page. */
  page: string;
  /** All else that it depends on but the answers of the site: the screen, and what is asked of the page. */
  conditions: unknown;
}

/** Follows what a look at a page asks for, so that it is known what the result was made from. */
export class LookWatch implements GateWatch {
  readonly #asked = new Set<string>();
  /** Hosts of which no page's log tells that they were refused. */
  readonly refused = new Set<string>();
  elsewhere = false;
  /** When the first address was asked for, `Date.now()`: no answer is older. */
  since = Number.POSITIVE_INFINITY;

  /** @param answered whether what pages ask for is answered in the place of the network */
  constructor(
    readonly urls: SiteUrls,
    readonly answered = false,
  ) {}

  onAsked = (url: string): void => {
    this.since = Math.min(this.since, Date.now());
    // What passes by who answers (sockets, workers) is not known later.
    if (this.urls.isOwn(url) && !this.answered) this.#asked.add(this.urls.shorten(url));
    else this.elsewhere = true;
  };

  /** What is answered in the place of the network: it is named with all that its answer depends on. */
  onAnswered = ({ url, method, headers }: AskedRequest): void => {
    const [, accept = ''] = Object.entries(headers).find(([name]) => /^accept$/i.test(name)) ?? [];
    // What other hosts answer to pages of a folder is not known later.
    if (method !== 'GET' || !this.answered) this.elsewhere = true;
    else this.#asked.add(JSON.stringify([this.urls.shorten(url), accept]));
  };

  /** The size of an image is told before it is asked for: what its file is decides too. */
  onSized = (url: string): void => {
    if (!this.answered) this.onAsked(url);
  };

  onRefused = (host: string): void => {
    this.refused.add(host);
  };

  get asked(): string[] {
    return [...this.#asked].sort();
  }
}

/** Counts of looks at pages. */
export interface LookCounts {
  made: number;
  remembered: number;
}

/**
 * What looks at pages saw, kept with everything that they were made from. It is used again only when the site would answer every address
 * that was asked for as it did then; so a site and its mended copy share what they have in common.
 */
export class PageMemory {
  readonly counts: Record<string, LookCounts> = {};

  /**
   * @param version tells ways of measuring, and browsers, apart
   * @param fresh nothing that was kept is used, and what is seen now takes its place
   */
  constructor(
    readonly kept: KeptValues,
    readonly site: Site,
    readonly urls: SiteUrls,
    readonly version: string,
    readonly fresh = false,
  ) {}

  /**
   * Gives what a look saw before, or looks now.
   * @param look does it, telling the watch what it asks for
   * @param isWhole whether the result may be kept: what was seen only in part is looked at again
   */
  async remember<Result>(
    { what, page, conditions }: Look,
    look: (watch: LookWatch) => Promise<Result>,
    isWhole: (result: Result) => boolean,
  ): Promise<Result> {
    const counts = (this.counts[what] ??= { made: 0, remembered: 0 });
    // What a folder is asked for is noted in another way than what a server is asked for.
    const madeFrom = [this.version, what, page, conditions, ...(this.site.kind === 'live' ? ['live'] : [])];
    const ways = keyOf('asked', ...madeFrom);
    const known = await this.#ways(ways);
    if (!this.fresh)
      for (const asked of known) {
        const kept = await this.kept.get(
          await this.#keyFor(madeFrom, asked, (each) => this.site.answers.to(each)),
        );
        if (kept === undefined) continue;
        counts.remembered++;
        return withPort((kept as { result: Result }).result, this.urls.origin);
      }
    counts.made++;
    const watch = new LookWatch(this.urls, this.site.kind === 'live');
    const result = await look(watch);
    if (isWhole(result) && !watch.elsewhere) {
      const value = { result: withoutPort(result, this.urls.origin) };
      await this.#keep(madeFrom, ways, watch.asked, watch.since, value);
    }
    return result;
  }

  /** Lists of addresses that this page was seen to ask for, the last first. */
  async #ways(key: string): Promise<string[][]> {
    return ((await this.kept.get(key)) as string[][] | undefined) ?? [];
  }

  async #keep(
    madeFrom: readonly unknown[],
    ways: string,
    asked: string[],
    since: number,
    value: { result: unknown },
  ): Promise<void> {
    let isKnown = true;
    const key = await this.#keyFor(madeFrom, asked, async (each) => {
      const given = await this.site.answers.given(each, since);
      isKnown &&= given !== undefined;
      return given ?? '';
    });
    if (!isKnown) return;
    await this.kept.put(key, value);
    const others = (await this.#ways(ways)).filter((each) => each.join('\n') !== asked.join('\n'));
    await this.kept.put(ways, [asked, ...others].slice(0, mostWays));
  }

  async #keyFor(
    madeFrom: readonly unknown[],
    asked: readonly string[],
    answer: (address: string) => Promise<string>,
  ): Promise<string> {
    const answers: string[] = [];
    for (const address of asked) answers.push(address, await answer(address));
    return keyOf('visit', ...madeFrom, answers);
  }
}

const hashesOf = (site: Site) => keyOf('known', 'hashes of files', site.root);

/** Takes the hashes that files had at an earlier time, for those that have not changed since as far as their size and times tell. */
export async function trustFileTimes(kept: KeptValues, site: Site): Promise<void> {
  const known = await kept.get(hashesOf(site));
  if (known instanceof Map) site.answers.hashes?.trust(known as Map<string, HashedFile>);
}

export async function keepFileTimes(kept: KeptValues, site: Site): Promise<void> {
  const { hashes } = site.answers;
  if (hashes) await kept.put(hashesOf(site), hashes.known);
}

/** So much room what is kept may take: some thousand pages, and the pictures of as many. Bytes. */
export const usualRoom = 1_000_000_000;

/** Room is looked after when a run has kept this much, bytes: looking takes a while. */
const worthLooking = 20_000_000;

/** Lets the oldest go where a run has kept much. */
export async function makeRoom(kept: KeptValues): Promise<void> {
  if (kept.folder !== undefined && kept.written > worthLooking) await pruneCache(kept.folder, usualRoom);
}
