import pLimit from 'p-limit';
import type { ImageFile, PicturePrice } from '../core/run/index.js';
import {
  measureAtHost,
  Measurer,
  type HostAsk,
  unknownFile,
  type Measured,
  type MeasuredCache,
  type MeasureOrder,
} from '../images/index.js';
import { causeInWords } from '../core/wording/words.js';
import type { ImageHost } from '../core/plan/image-host.js';
import type { Stages } from './context.js';
import type { Site } from '../site/index.js';
import type { SiteUrls } from './site-urls.js';

function isFacts(value: unknown): value is ImageFile {
  const { format, width } = (value ?? {}) as Partial<ImageFile>;
  return typeof format === 'string' && typeof width === 'number';
}

/** The image files of a site: facts read once, prices measured a few at a time. */
export class ImageStore {
  readonly #facts = new Map<string, ImageFile>();
  readonly #reading = new Map<string, Promise<void>>();
  readonly #measurer: Measurer;
  readonly #fewAtOnce = pLimit(4);
  readonly #readFacts: Stages['readFacts'];

  constructor(
    readonly site: Site,
    readonly urls: SiteUrls,
    readonly cache: MeasuredCache,
    stages: Pick<Stages, 'measure' | 'readFacts'>,
  ) {
    this.#measurer = new Measurer(cache, stages.measure);
    this.#readFacts = stages.readFacts;
  }

  fileOf = (url: string): ImageFile | undefined => this.#facts.get(url);

  get files(): ReadonlyMap<string, ImageFile> {
    return this.#facts;
  }

  /** Reads the facts of files that were not read yet; those of hosts that were not asked stay unknown. */
  async read(urls: Iterable<string>): Promise<void> {
    const wanted = [...new Set(urls)].filter((url) => !this.#reading.has(url));
    await this.site.ask(wanted);
    const isKnown = (url: string) => url.startsWith('/') || this.site.fileAt(url) !== undefined;
    await Promise.all([...new Set(urls)].filter(isKnown).map((url) => this.#readOnce(url)));
  }

  #readOnce(url: string): Promise<void> {
    const reading = this.#reading.get(url) ?? this.#read(url);
    this.#reading.set(url, reading);
    return reading;
  }

  async #read(url: string): Promise<void> {
    const file = this.site.fileAt(url);
    this.#facts.set(
      url,
      file === undefined
        ? unknownFile(url, 0, '', this.site.whyUnanswered?.(url) ?? 'there is no such file')
        : await this.#factsOf(url, file).catch((cause: unknown) =>
            unknownFile(url, 0, '', `it cannot be read: ${causeInWords(cause)}`),
          ),
    );
  }

  async #factsOf(url: string, file: string): Promise<ImageFile> {
    const facts = await this.once(file, 'facts', isFacts, (content) => this.#readFacts(url, content));
    return { ...facts, url };
  }

  /**
   * What follows from the content of a file, made once for each content. A few at a time: a page may show sixty files of 10 MB.
   * @param recipe what is made of it
   * @param fits tells whether a kept value is of the right kind
   */
  once<Value>(
    file: string,
    recipe: unknown,
    fits: (value: unknown) => value is Value,
    make: (content: Buffer) => Promise<Value>,
  ): Promise<Value> {
    return this.#fewAtOnce(async () => {
      const hash = await this.site.hashOf(file);
      const read = async () => make(await this.site.read(file));
      return hash === undefined ? read() : this.cache.remember(hash, recipe, fits, read);
    });
  }

  /**
   * Measures a picture of this site.
   * @throws {Error} when it cannot be encoded
   */
  async measure({ url, hash }: ImageFile, order: MeasureOrder): Promise<PicturePrice> {
    const measured = await this.#measurer.measure(hash, order, async () => {
      const file = this.site.fileAt(url);
      if (file === undefined) throw new Error('there is no such file');
      return this.site.read(file);
    });
    return { url, ...measured };
  }

  /**
   * Asks a host that resizes by address what a picture weighs.
   * @throws {Error} when it gives none of that width
   */
  async measureAtHost({ url }: ImageFile, order: MeasureOrder, host: ImageHost): Promise<PicturePrice> {
    const measured = await this.#fewAtOnce(() =>
      measureAtHost(order, {
        hasQuality: host.has('quality'),
        hasFormat: host.has('format'),
        ask: (wish) => this.#askHost(host, url, wish),
      }),
    );
    return { url, ...measured };
  }

  async #askHost(host: ImageHost, of: string, wish: HostAsk): Promise<Buffer> {
    const address = host.write(of, wish);
    if (address === undefined) throw new Error('its address is not one of the image host');
    await this.site.ask([address]);
    if (this.site.fileAt(address) === undefined) throw new Error(`the image host does not give ${address}`);
    const content = await this.#contentOf(address);
    const file = await this.#readFacts(address, content);
    // Hosts give no more than they have.
    if (Math.abs(file.width - wish.width) > 1)
      throw new Error(`the image host gives ${file.width} px at ${address}`);
    if (wish.format !== undefined && file.format !== wish.format)
      throw new Error(`the image host gives ${file.format} at ${address}`);
    return content;
  }

  async #contentOf(url: string): Promise<Buffer> {
    const file = this.site.fileAt(url);
    if (file === undefined) throw new Error('there is no such file');
    return this.site.read(file);
  }

  /**
   * Measures a picture that is made from a file of this site.
   * @param name tells its content from every other
   */
  measureContent(name: string, order: MeasureOrder, make: () => Promise<Buffer>): Promise<Measured> {
    return this.#measurer.measure(name, order, make);
  }

  /** Notes that a picture cannot be decoded whole: nothing is to be claimed of it. */
  spoil(url: string, problem: string): void {
    const file = this.#facts.get(url);
    if (file) this.#facts.set(url, { ...file, problem });
  }

  close(): Promise<void> {
    return this.#measurer.close();
  }
}
