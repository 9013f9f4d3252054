import { groupBy } from '../core/grouping.js';
import type { SlotSweep, SweepTemplate } from '../core/run/index.js';
import { isSameSweep, SweptTemplate, type PageSigns } from '../core/templates/shared-sweeps.js';

/** A page on which sweeps are wanted. */
export interface PageToSweep {
  path: string;
  /** Hash of its skeleton; empty where none is known. */
  skeleton: string;
  /** Orders pages by nothing that anybody chose. */
  contentHash: string;
  signs: PageSigns;
}

/** So many pages of a skeleton beyond those that its sweeps are taken from are swept to check them. */
const checkedPages = 2;

export interface SweptOnce {
  sweeps: SlotSweep[];
  templates: SweepTemplate[];
}

/**
 * Sweeps pages of one skeleton once for all of them, and two more to check: where those are laid out otherwise, all are swept.
 * @param sweepPage gives the sweeps of a page's placements by id; undefined where the page could not be swept
 * @param done is told of each page once its sweeps are known
 */
export async function sweepTemplates(
  pages: readonly PageToSweep[],
  sweepPage: (path: string) => Promise<ReadonlyMap<string, SlotSweep> | undefined>,
  done: (path: string) => void,
): Promise<SweptOnce> {
  const groups = [...groupBy(pages, ({ skeleton, path }) => skeleton || `of its own: ${path}`).values()];
  const swept = await Promise.all(groups.map((group) => new Template(group, sweepPage, done).sweep()));
  const byPath = new Map(swept.flatMap(({ sweeps }) => [...sweeps]));
  return {
    sweeps: pages.flatMap(({ path }) => byPath.get(path) ?? []),
    templates: swept
      .flatMap(({ template }) => template ?? [])
      .sort((a, b) => ((a.swept[0] ?? '') < (b.swept[0] ?? '') ? -1 : 1)),
  };
}

class Template {
  readonly #known = new SweptTemplate();
  /** By path. */
  readonly #sweeps = new Map<string, SlotSweep[]>();
  readonly #swept: string[] = [];

  constructor(
    readonly pages: readonly PageToSweep[],
    readonly sweepPage: (path: string) => Promise<ReadonlyMap<string, SlotSweep> | undefined>,
    readonly done: (path: string) => void,
  ) {}

  async sweep(): Promise<{ sweeps: ReadonlyMap<string, SlotSweep[]>; template: SweepTemplate | undefined }> {
    // A few pages are swept sooner than they are compared.
    if (this.pages.length <= checkedPages + 1) {
      await this.#sweepAll(this.pages);
      return { sweeps: this.#sweeps, template: undefined };
    }
    const byCount = [...this.pages].sort(
      (a, b) => b.signs.length - a.signs.length || (keyOf(a) < keyOf(b) ? -1 : 1),
    );
    for (const page of byCount) if (!this.#known.sweepsFor(page.signs)) await this.#sweepOne(page);
    const left = [...this.pages]
      .filter(({ path }) => !this.#swept.includes(path))
      .sort((a, b) => (keyOf(a) < keyOf(b) ? -1 : 1));
    const checked = left.slice(0, checkedPages);
    const agree = await Promise.all(checked.map((page) => this.#check(page)));
    const agrees = agree.every(Boolean);
    const rest = left.slice(checkedPages);
    if (agrees) for (const page of rest) this.#take(page, this.#known.sweepsFor(page.signs) ?? []);
    else await this.#sweepAll(rest);
    const template = {
      pages: this.pages.length,
      swept: this.#swept.filter((path) => !checked.some((page) => page.path === path)).sort(),
      checked: checked.map(({ path }) => path).sort(),
      agrees,
    };
    return { sweeps: this.#sweeps, template: left.length > 0 ? template : undefined };
  }

  async #sweepAll(pages: readonly PageToSweep[]): Promise<void> {
    await Promise.all(pages.map((page) => this.#sweepOne(page)));
  }

  async #sweepOne(page: PageToSweep): Promise<void> {
    const sweeps = await this.sweepPage(page.path);
    this.#swept.push(page.path);
    if (sweeps) this.#known.add(page.signs, sweeps);
    this.#take(
      page,
      page.signs.flatMap(({ id }) => sweeps?.get(id) ?? []),
    );
  }

  /** Sweeps a page of which all is expected; whether it is as it was expected. */
  async #check(page: PageToSweep): Promise<boolean> {
    const expected = this.#known.sweepsFor(page.signs) ?? [];
    await this.#sweepOne(page);
    const seen = this.#sweeps.get(page.path) ?? [];
    const byId = new Map(seen.map((each) => [each.placement, each]));
    return expected.every((each) => {
      const own = byId.get(each.placement);
      return own !== undefined && isSameSweep(own, each);
    });
  }

  #take({ path }: PageToSweep, sweeps: SlotSweep[]): void {
    this.#sweeps.set(path, sweeps);
    this.done(path);
  }
}

const keyOf = ({ contentHash, path }: PageToSweep) => `${contentHash} ${path}`;
