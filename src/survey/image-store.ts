import pLimit from 'p-limit';
import { encodeKey } from '../core/checks/index.js';
import type { WantedEncodes } from '../core/bytes/wanted-encodes.js';
import type { ImageFile, MeasuredEncode } from '../core/run/index.js';
import { canEncode, encodeLadder, readImageFacts } from '../images/index.js';
import type { Site } from '../site/index.js';
import type { SiteUrls } from './site-urls.js';

/** The image files of a site: facts read once, encodes made a few at a time. */
export class ImageStore {
  readonly #facts = new Map<string, ImageFile>();
  readonly #reading = new Map<string, Promise<void>>();

  constructor(
    readonly site: Site,
    readonly urls: SiteUrls,
    readonly atOnce: number,
  ) {}

  fileOf = (url: string): ImageFile | undefined => this.#facts.get(url);

  get files(): ReadonlyMap<string, ImageFile> {
    return this.#facts;
  }

  /** Reads the facts of files of this site that were not read yet; other hosts' files stay unknown. */
  async read(urls: Iterable<string>): Promise<void> {
    await Promise.all(
      [...new Set(urls)].filter((url) => url.startsWith('/')).map((url) => this.#readOnce(url)),
    );
  }

  #readOnce(url: string): Promise<void> {
    const reading = this.#reading.get(url) ?? this.#read(url);
    this.#reading.set(url, reading);
    return reading;
  }

  async #read(url: string): Promise<void> {
    const file = this.site.fileAt(url);
    if (file === undefined) {
      const missing = { format: 'unknown', width: 0, height: 0, bytes: 0, animated: false, hash: '' };
      this.#facts.set(url, { url, ...missing, problem: 'there is no such file' });
      return;
    }
    this.#facts.set(url, await readImageFacts(url, await this.site.read(file)));
  }

  /**
   * Makes the wanted encodes.
   * @param onProblem told of each picture that cannot be encoded; the others go on
   */
  async encode(
    wanted: readonly WantedEncodes[],
    onDone: () => void,
    onProblem: (url: string, why: string) => void,
  ): Promise<MeasuredEncode[]> {
    const limit = pLimit(this.atOnce);
    const results = await Promise.all(
      wanted.map((order) =>
        limit(async () => {
          try {
            return await this.#encodeOne(order);
          } catch (cause) {
            onProblem(order.url, cause instanceof Error ? cause.message : String(cause));
            return [];
          } finally {
            onDone();
          }
        }),
      ),
    );
    return results.flat();
  }

  async #encodeOne(order: WantedEncodes): Promise<MeasuredEncode[]> {
    const file = this.site.fileAt(order.url);
    if (file === undefined || !canEncode(order.format)) return [];
    return encodeLadder(await this.site.read(file), order);
  }
}

/** Encodes by file and width, for the checks. */
export function encodeTable(encodes: readonly MeasuredEncode[]): Map<string, number> {
  return new Map(encodes.map(({ url, width, bytes }) => [encodeKey(url, width), bytes]));
}
