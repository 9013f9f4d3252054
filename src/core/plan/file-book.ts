import type { Price, PriceList } from '../bytes/price-list.js';
import { decoded } from '../markup/decoded.js';
import type { CropFile, FileToMake, ImageFile, OfferedCrop, Recipe } from '../run/types.js';
import type { ImageHosts } from './image-host.js';
import { removableBytes } from './removable.js';
import { endingOf, freeName, readName, styleOfSite, type NameStyle } from './file-names.js';

/** A file that a page takes or may take: one that is there, or one that is to be made. */
export interface PlannedFile {
  /** The same for the same content, whatever its address. */
  id: string;
  /** Address from the site's root; of a file to be made a provisional one, until names are given. */
  url: string;
  /** The file that it is made from; the file itself where it is there. */
  master: string;
  /** `as-is` where it is there. */
  recipe: Recipe | 'as-is';
  format: string;
  /** Device px; 0 when unknown. */
  width: number;
  height: number;
  /** Undefined where nothing is known of it. */
  bytes: number | undefined;
  /** 0 when the bytes are known exactly; else how far they may be off, as a share. */
  error: number;
  quality: number | null;
  palette?: true;
  animated: boolean;
  /** The part of the master that it shows, where that is not all of it. */
  crop?: FileToMake['crop'];
}

/** What is to be made of a file. */
export interface FileOrder {
  /** Device px; at most the master's own. */
  width: number;
  format: string;
  recipe: Recipe;
}

export interface BookOptions {
  files: ReadonlyMap<string, ImageFile>;
  prices: PriceList;
  /** Paths of all files of the site, whether a page knows them or not: no new file may have the name of one. */
  names: ReadonlySet<string>;
  /** Other files of the site that show the same picture as one, whether a page knows them or not; by that one's address. */
  twins: ReadonlyMap<string, readonly string[]>;
  /** Whether the names of author and licence stay in the files. */
  keepCredits: boolean;
  /** Hosts that give pictures in any width by their addresses; none if left out. */
  hosts?: ImageHosts;
}

/**
 * Every image file of the site and every file that fixes make, by what it is: content of its master, width, format, recipe. It does
 * not ask where a file lies.
 */
export class FileBook {
  readonly #byId = new Map<string, PlannedFile>();
  readonly #byUrl = new Map<string, PlannedFile>();

  constructor(readonly options: BookOptions) {}

  /** The file at an address as it is. */
  existing(url: string): PlannedFile {
    const known = this.#byUrl.get(url);
    if (known) return known;
    const file = this.options.files.get(url);
    const sound = file && file.problem === undefined;
    const planned: PlannedFile = {
      id: url,
      url,
      master: url,
      recipe: 'as-is',
      format: file?.format ?? 'unknown',
      width: file?.width ?? 0,
      height: file?.height ?? 0,
      bytes: sound ? file.bytes : undefined,
      error: 0,
      quality: file?.quality ?? null,
      animated: file?.animated ?? false,
    };
    this.#byUrl.set(url, planned);
    return planned;
  }

  /**
   * A file of the site that shows a master's picture at a width and in a format and need not be made, if there is one: at most so much
   * wider, neither clearly heavier than a new one nor so much lighter that it cannot look the same.
   */
  twin(
    masterUrl: string,
    { width, format }: Pick<FileOrder, 'width' | 'format'>,
    wider: number,
  ): PlannedFile | undefined {
    const { twins, prices } = this.options;
    const found = (twins.get(masterUrl) ?? [])
      .map((url) => this.existing(url))
      .filter((file) => file.format === format && file.width >= width && file.width <= width * wider)
      .sort((a, b) => a.width - b.width);
    return found.find((file) => {
      const light = prices.equalLooks(masterUrl, format, file.width)?.bytes;
      if (light === undefined || file.bytes === undefined) return false;
      return file.bytes >= light * leastShare && file.bytes <= light * mostShare;
    });
  }

  /** A file to be made; undefined where nobody knows what it would weigh. */
  make(masterUrl: string, order: FileOrder): PlannedFile | undefined {
    const master = this.options.files.get(masterUrl);
    const price = master && this.#priceOf(master, order);
    if (!master || master.truncated || !price) return undefined;
    const { width, format, recipe } = order;
    if (this.options.hosts?.at(master.url) && !atHosts.has(recipe)) return undefined;
    return this.#keep(JSON.stringify([master.hash || master.url, width, format, recipe]), master, {
      recipe,
      format,
      width,
      height: Math.max(1, Math.round((master.height * width) / Math.max(1, master.width))),
      bytes: price.bytes,
      error: price.error,
      quality: price.quality,
      ...(price.palette ? { palette: price.palette } : {}),
      animated: recipe === 'animation',
    });
  }

  /** A file to be made that shows a part of its master. */
  cut(masterUrl: string, { files: _, ...crop }: OfferedCrop, file: CropFile): PlannedFile | undefined {
    const master = this.options.files.get(masterUrl);
    if (!master || master.truncated || this.options.hosts?.at(master.url)) return undefined;
    const { width, format, bytes, quality, decibels } = file;
    return this.#keep(JSON.stringify([master.hash || master.url, width, format, 'cropped', crop]), master, {
      recipe: 'cropped',
      format,
      width,
      height: Math.max(1, Math.round((crop.height * width) / Math.max(1, crop.width))),
      bytes,
      error: 0,
      quality,
      animated: false,
      crop: { ...crop, decibels },
    });
  }

  #keep(
    id: string,
    { url: masterUrl, ...size }: ImageFile,
    made: Omit<PlannedFile, 'id' | 'url' | 'master'>,
  ): PlannedFile {
    const known = this.#byId.get(id);
    if (known) return known;
    const { folder, stem } = readName(masterUrl, size);
    const url = `${folder}${stem}~${this.#byId.size}.${endingOf(made.format)}`;
    const file: PlannedFile = { id, url, master: masterUrl, ...made };
    this.#byId.set(id, file);
    this.#byUrl.set(url, file);
    return file;
  }

  /** The file that has an address in a text which was written with provisional names. */
  at(url: string): PlannedFile {
    return this.#byUrl.get(url) ?? this.existing(url);
  }

  #priceOf(master: ImageFile, { width, format, recipe }: FileOrder): Price | undefined {
    const { prices, keepCredits } = this.options;
    switch (recipe) {
      case 'resized':
        return format === master.format ? prices.alike(master.url, width) : undefined;
      case 'bare':
        // Items of an AVIF point into each other by offsets: taking one out is a new file, made by whoever made it.
        if (master.format === 'avif') return undefined;
        return {
          bytes: Math.max(1, master.bytes - removableBytes(master, keepCredits)),
          quality: null,
          error: 0,
        };
      case 'still':
      case 'cropped':
        return undefined;
      default:
        return prices.equalLooks(master.url, format, width);
    }
  }
}

/** What a host that resizes by address does. */
const atHosts: ReadonlySet<Recipe> = new Set(['resized', 'equal-looks']);

/** What an existing file may weigh, as a share of a new one that looks the same. */
const [leastShare, mostShare] = [0.7, 1.3];

const labels: Partial<Record<PlannedFile['recipe'], string>> = {
  'equal-looks': 'light',
  cleaned: 'light',
  bare: 'bare',
  resized: 'small',
};

/** Gives every file that is to be made its name: the same whatever the order of the files, none that is taken. */
export function giveNames(
  wanted: ReadonlyMap<PlannedFile, { density?: number }>,
  { files, names, hosts }: Pick<BookOptions, 'files' | 'names' | 'hosts'>,
): Map<PlannedFile, string> {
  const style: NameStyle = styleOfSite(files.values());
  const taken = new Set([...names, ...files.keys()].map(asName));
  const given = new Map<PlannedFile, string>();
  const sorted = [...wanted].sort(([a], [b]) => byMaking(a, b));
  for (const [file, { density }] of sorted) {
    const master = files.get(file.master);
    if (!master) continue;
    const address = hosts?.address(master.url, hostWish(file, master));
    if (address !== undefined) {
      given.set(file, address);
      continue;
    }
    const wish = {
      width: file.width,
      height: file.height,
      format: file.format,
      masterWidth: master.width,
      masterFormat: master.format,
      ...(labels[file.recipe] === undefined ? {} : { label: labels[file.recipe] as string }),
      ...(density === undefined ? {} : { density }),
    };
    const parts = readName(master.url, master);
    const named = file.crop ? { ...parts, stem: `${parts.stem}-crop` } : parts;
    const name = freeName(named, wish, style, (each) => taken.has(asName(each)));
    taken.add(asName(name));
    given.set(file, name);
  }
  return given;
}

/** What is asked of a host for a file: of one that stays as it is only another width. */
const hostWish = ({ width, format, quality, recipe }: PlannedFile, master: ImageFile) => ({
  width,
  ...(format === master.format ? {} : { format }),
  ...(recipe === 'equal-looks' ? { quality } : {}),
});

/** Addresses are encoded in more than one way, and some file systems take capital and small letters for the same. */
const asName = (address: string): string => decoded(address.replace(/[?#].*$/s, '')).toLowerCase();

const text = (a: string, b: string) => (a < b ? -1 : a > b ? 1 : 0);

export function byMaking(a: PlannedFile, b: PlannedFile): number {
  return (
    text(a.master, b.master) || a.width - b.width || text(a.format, b.format) || text(a.recipe, b.recipe)
  );
}
