import { groupBy } from '../../core/grouping.js';
import type { Download, ReadTemplate } from '../../core/run/index.js';
import { samplePages } from '../../core/templates/sampling.js';
import { causeInWords } from '../../core/wording/words.js';
import type { Page } from '../../site/index.js';
import type { AuditContext } from '../context.js';
import { lookAt } from '../page-looks.js';
import { joinLooks, surveyPage, type SurveyedPage } from '../page-visits.js';
import { compareLooks, type Agreement } from './agreement.js';
import { addressesOf } from './element-pick.js';
import { readPageFile } from './page-file.js';
import { NotReadable, type FileKnowledge } from './samples.js';
import { isSound, TemplateReader, type SeenPage } from './template-reader.js';

/** Sites with fewer pages are visited whole. */
export const largeSite = 200;

/** A template of which less than this is as it was read is visited whole. */
const leastAgreement = 0.99;

export interface SurveyedSite {
  pages: SurveyedPage[];
  templates: ReadTemplate[];
}

/** Looks at all pages: visits each, or of large sites visits some of each template and reads the others from their files. */
export async function surveySite(context: AuditContext): Promise<SurveyedSite> {
  const { site, options, progress } = context;
  const isLarge = site.pages.length >= largeSite;
  if (!isLarge || options.everyPage || (options.match?.length ?? 0) > 0) {
    progress.begin('visits', site.pages.length * options.screens.length);
    return { pages: await visitAll(context, site.pages), templates: [] };
  }
  return new LargeSite(context).survey();
}

const visitAll = (context: AuditContext, pages: readonly Page[]): Promise<SurveyedPage[]> =>
  Promise.all(pages.map((page) => surveyPage(context, page)));

interface Template {
  pages: Page[];
  learnt: Page[];
  checked: Page[];
  read: Page[];
}

interface Told {
  left?: readonly { why: string }[];
  agreement?: Agreement | undefined;
  /** Why all were visited. */
  reason?: string;
}

class LargeSite {
  readonly #surveyed = new Map<string, SurveyedPage>();
  readonly #transfers = new Map<string, Pick<Download, 'bytes' | 'type' | 'status'>>();
  readonly #files: FileKnowledge;

  constructor(readonly context: AuditContext) {
    const { urls, images } = context;
    this.#files = {
      urls,
      fileOf: images.fileOf,
      transferOf: (url) => this.#transferOf(url),
    };
  }

  async survey(): Promise<SurveyedSite> {
    const { site, progress, options } = this.context;
    const { templates, others } = await this.#sortPages();
    const sampled = templates.reduce((sum, { learnt, checked }) => sum + learnt.length + checked.length, 0);
    progress.begin('visits', (others.length + sampled) * options.screens.length);
    const [, ...seen] = await Promise.all([
      this.#visit(others),
      ...templates.map(async ({ learnt, checked }) => ({
        learnt: await this.#look(learnt),
        checked: await this.#look(checked),
      })),
    ]);
    const told: ReadTemplate[] = [];
    const left: Page[] = [];
    const toRead = templates.reduce((sum, { read }) => sum + read.length, 0);
    if (toRead > 0) progress.begin('reading', toRead);
    for (const [index, template] of templates.entries()) {
      const looks = seen[index];
      if (!looks) continue;
      const read = await this.#readTemplate(template, looks);
      told.push(read.told);
      left.push(...read.left);
    }
    if (left.length > 0) {
      progress.begin('visits', left.length * options.screens.length);
      await this.#visit(left);
    }
    return {
      pages: site.pages.flatMap(({ path }) => this.#surveyed.get(path) ?? []),
      templates: told.sort((a, b) => b.pages - a.pages || (a.example < b.example ? -1 : 1)),
    };
  }

  /** Pages by template, and those of templates that are too small to read any. */
  async #sortPages(): Promise<{ templates: Template[]; others: Page[] }> {
    const { site, progress } = this.context;
    progress.begin('outlines', site.pages.length);
    const outlined: { page: Page; template: string; hash: string }[] = [];
    for (const page of site.pages) {
      const file = await readPageFile(this.context, page);
      const hash = (await site.hashOf(page.file)) ?? '';
      outlined.push({ page, template: file?.template ?? `of its own: ${page.path}`, hash });
      progress.step(page.path);
    }
    const templates: Template[] = [];
    const others: Page[] = [];
    for (const group of groupBy(outlined, ({ template }) => template).values()) {
      const pages = group
        .sort((a, b) => (a.hash + a.page.path < b.hash + b.page.path ? -1 : 1))
        .map(({ page }) => page);
      const sample = samplePages(pages);
      if (sample.read.length > 0) templates.push({ pages, ...sample });
      else others.push(...pages);
    }
    return { templates, others };
  }

  async #visit(pages: readonly Page[]): Promise<void> {
    for (const surveyed of await visitAll(this.context, pages)) this.#add(surveyed);
  }

  #add(surveyed: SurveyedPage): void {
    this.#surveyed.set(surveyed.record.path, surveyed);
  }

  /** Visits pages and keeps what was seen, to learn from. */
  async #look(pages: readonly Page[]): Promise<SeenPage[]> {
    const seen = await Promise.all(
      pages.map(async (page): Promise<SeenPage | undefined> => {
        const looks = await lookAt(this.context, page);
        this.#add(await joinLooks(this.context, page, looks));
        const file = await readPageFile(this.context, page);
        return file && { file, looks };
      }),
    );
    const found = seen.flatMap((each) => each ?? []);
    for (const { looks } of found)
      for (const { summary } of looks.visits)
        for (const { url, bytes, type, status, failure } of summary.visit.downloads)
          if (failure === undefined && status < 400) this.#transfers.set(url, { bytes, type, status });
    return found;
  }

  async #readTemplate(
    template: Template,
    { learnt, checked }: { learnt: readonly SeenPage[]; checked: readonly SeenPage[] },
  ): Promise<{ told: ReadTemplate; left: Page[] }> {
    const { context } = this;
    const visited = (reason: string, agreement?: Agreement) => {
      for (const { path } of template.read) context.progress.step(path);
      return { told: this.#tell(template, { reason, agreement }), left: template.read };
    };
    try {
      if (context.interrupted) return visited('the audit was interrupted');
      const screens = context.options.screens;
      const sound = (pages: readonly SeenPage[]) => pages.filter((each) => isSound(each, this.#files));
      const agreement = this.#check(new TemplateReader(sound(learnt), screens, this.#files), sound(checked));
      if (agreement.agreed < agreement.compared * leastAgreement)
        return visited(`a check disagrees: ${agreement.example ?? ''}`, agreement);
      const reader = new TemplateReader(sound([...learnt, ...checked]), screens, this.#files);
      const left: { page: Page; why: string }[] = [];
      for (const page of template.read) {
        const why = await this.#read(reader, page);
        if (why !== undefined) left.push({ page, why });
        context.progress.step(page.path);
      }
      return { told: this.#tell(template, { agreement, left }), left: left.map(({ page }) => page) };
    } catch (cause) {
      if (cause instanceof NotReadable) return visited(cause.message);
      context.faults.note('reading pages of a template', { page: template.pages[0]?.path ?? '' }, cause);
      return visited(causeInWords(cause));
    }
  }

  #check(reader: TemplateReader, checked: readonly SeenPage[]): Agreement {
    const total: Agreement = { compared: 0, agreed: 0, example: undefined };
    const reasons: string[] = [];
    for (const { file, looks } of checked) {
      try {
        const { compared, agreed, example } = compareLooks(reader.read(file), looks);
        total.compared += compared;
        total.agreed += agreed;
        if (example !== undefined) total.example ??= `${file.path}: ${example}`;
      } catch (cause) {
        // Such a page would have been visited: there is nothing to check.
        if (!(cause instanceof NotReadable)) throw cause;
        reasons.push(cause.message);
      }
    }
    if (total.compared === 0)
      throw new NotReadable(reasons[0] ?? 'none of the pages that check was seen whole');
    return total;
  }

  /** @returns why it cannot be read; undefined if it was */
  async #read(reader: TemplateReader, page: Page): Promise<string | undefined> {
    const file = await readPageFile(this.context, page);
    if (!file) return 'its file cannot be read';
    await this.context.images.read(addressesOf(file, this.context.urls));
    try {
      const looks = reader.read(file);
      const joined = await joinLooks(this.context, page, looks);
      this.#add({ ...joined, record: { ...joined.record, read: true } });
      return undefined;
    } catch (cause) {
      if (!(cause instanceof NotReadable)) throw cause;
      return cause.message;
    }
  }

  /** What was transferred elsewhere; of a picture that nobody fetched yet the file as it is: only text is compressed on the way. */
  #transferOf(url: string): Pick<Download, 'bytes' | 'type' | 'status'> | undefined {
    const known = this.#transfers.get(url);
    const file = this.context.images.fileOf(url);
    if (known || !file || file.problem !== undefined || file.format === 'svg') return known;
    const type = this.context.site.typeOf(url);
    return { bytes: file.bytes, type, status: 200 };
  }

  #tell({ pages, learnt, checked, read }: Template, { left = [], agreement, reason }: Told): ReadTemplate {
    const alsoVisited = [...groupBy(left, ({ why }) => why)]
      .map(([why, some]) => ({ why, pages: some.length }))
      .sort((a, b) => b.pages - a.pages || (a.why < b.why ? -1 : 1));
    return {
      example: pages[0]?.path ?? '',
      pages: pages.length,
      read: reason === undefined ? read.length - left.length : 0,
      learnt: learnt.length,
      checked: checked.length,
      compared: agreement?.compared ?? 0,
      agreed: agreement?.agreed ?? 0,
      alsoVisited,
      visitedWhole: reason ?? null,
    };
  }
}
