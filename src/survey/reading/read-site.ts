import { groupBy } from '../../core/grouping.js';
import type { Download, ReadTemplate } from '../../core/run/index.js';
import { samplePages } from '../../core/templates/sampling.js';
import { causeInWords } from '../../core/wording/words.js';
import type { Page } from '../../site/index.js';
import type { AuditContext } from '../context.js';
import { lookAt, visitOn, type PageLooks } from '../page-looks.js';
import { joinLooks, surveyPage, type SurveyedPage } from '../page-visits.js';
import type { Agreement } from './agreement.js';
import { checkReading } from './check-reading.js';
import { addressesOf } from './element-pick.js';
import { readPageFile } from './page-file.js';
import { NotReadable, type FileKnowledge } from './samples.js';
import { isSound, TemplateReader, type LookedPage, type ReadLook, type SeenPage } from './template-reader.js';
import { tellTemplate, type Left, type Template } from './told-template.js';

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

/** What was seen of the pages of a template that are visited. */
interface Sampled {
  learnt: SeenPage[];
  checked: SeenPage[];
  onOne: LookedPage[];
}

/** Screens on which a page cannot be read, and why. */
const unreadIn = (looks: readonly ReadLook[]): Left['on'] =>
  looks.flatMap(({ screen, why }) => (why === undefined ? [] : [{ screen, why }]));

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
    const onOne = templates.reduce((sum, template) => sum + template.onOne.length, 0);
    progress.begin('visits', (others.length + sampled) * options.screens.length + onOne);
    const [, ...seen] = await Promise.all([
      this.#visit(others),
      ...templates.map(async (template): Promise<Sampled> => ({
        learnt: await this.#look(template.learnt),
        checked: await this.#look(template.checked),
        onOne: await this.#lookOnOne(template.onOne),
      })),
    ]);
    const told: ReadTemplate[] = [];
    const left: Left[] = [];
    const toRead = templates.reduce((sum, { onOne: some, read }) => sum + some.length + read.length, 0);
    if (toRead > 0) progress.begin('reading', toRead);
    for (const [index, template] of templates.entries()) {
      const looks = seen[index];
      if (!looks) continue;
      const read = await this.#readTemplate(template, looks);
      told.push(read.told);
      left.push(...read.left);
    }
    if (left.length > 0) {
      progress.begin(
        'visits',
        left.reduce((sum, { on, reader }) => sum + (reader ? on : options.screens).length, 0),
      );
      await Promise.all(left.map((each) => this.#visitLeft(each)));
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
      const sample = samplePages(pages, this.context.options.screens.length);
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
    for (const { looks } of found) this.#noteTransfers(looks.visits);
    return found;
  }

  #noteTransfers(visits: PageLooks['visits']): void {
    for (const { summary } of visits)
      for (const { url, bytes, type, status, failure } of summary.visit.downloads)
        if (failure === undefined && status < 400) this.#transfers.set(url, { bytes, type, status });
  }

  /** Visits pages on one screen each, on all screens in turn. */
  async #lookOnOne(pages: readonly Page[]): Promise<LookedPage[]> {
    const { context } = this;
    const { screens } = context.options;
    const looked = await Promise.all(
      pages.map(async (page, index): Promise<LookedPage | undefined> => {
        const on = screens.slice(index % screens.length, (index % screens.length) + 1);
        const visits = await visitOn(context, page, on);
        this.#noteTransfers(visits);
        const file = await readPageFile(context, page);
        if (!file) await this.#visit([page]);
        else await context.images.read(addressesOf(file, context.urls));
        return file && { page, file, visits };
      }),
    );
    return looked.flatMap((each) => each ?? []);
  }

  /** Visits a page on the screens on which only a visit can tell, and reads it on the others. */
  async #visitLeft({ page, on, reader, seen: before = [] }: Left): Promise<void> {
    const { context } = this;
    if (!reader) return this.#visit([page]);
    const also = on.map(({ screen }) => screen);
    const seen = [...before, ...(await visitOn(context, page, also))];
    const file = await readPageFile(context, page);
    const visits = file && reader.joined(file, seen);
    if (!visits) return this.#visit([page]);
    const { record, ...joined } = await joinLooks(context, page, reader.whole(visits));
    const visitedOn = seen.map(({ screen }) => screen.name);
    this.#add({ ...joined, record: { ...record, read: true, visitedOn } });
  }

  async #readTemplate(
    template: Template,
    { learnt, checked, onOne }: Sampled,
  ): Promise<{ told: ReadTemplate; left: Left[] }> {
    const { context } = this;
    const { screens } = context.options;
    const visited = (reason: string, agreement?: Agreement) => {
      const rest = [...template.onOne, ...template.read];
      for (const { path } of rest) context.progress.step(path);
      const left = rest.map((page) => ({ page, on: [] }));
      return { told: tellTemplate(template, screens.length, { reason, agreement }), left };
    };
    try {
      if (context.interrupted) return visited('the audit was interrupted');
      const sound = (pages: readonly SeenPage[]) => pages.filter((each) => isSound(each, this.#files));
      const first = new TemplateReader(sound(learnt), screens, this.#files);
      const { agreement, unchecked } = checkReading(first, { checked: sound(checked), onOne }, screens);
      if (agreement.agreed < agreement.compared * leastAgreement)
        return visited(`a check disagrees: ${agreement.example ?? ''}`, agreement);
      const reader = new TemplateReader(sound([...learnt, ...checked]), screens, this.#files, unchecked);
      const left: Left[] = [];
      for (const { page, file, visits: seen } of onOne) {
        const others = screens.filter((screen) => seen.every((each) => each.screen !== screen));
        const on = unreadIn(reader.read(file, others));
        left.push({ page, on, seen, ...(on.length < others.length ? { reader } : {}) });
        context.progress.step(page.path);
      }
      for (const page of template.read) {
        const on = await this.#read(reader, page);
        if (on.length > 0) left.push({ page, on, ...(on.length < screens.length ? { reader } : {}) });
        context.progress.step(page.path);
      }
      return { told: tellTemplate(template, screens.length, { agreement, left }), left };
    } catch (cause) {
      if (cause instanceof NotReadable) return visited(cause.message);
      context.faults.note('reading pages of a template', { page: template.pages[0]?.path ?? '' }, cause);
      return visited(causeInWords(cause));
    }
  }

  /** @returns the screens on which it cannot be read, and why; on none if it was */
  async #read(reader: TemplateReader, page: Page): Promise<Left['on']> {
    const { context } = this;
    const file = await readPageFile(context, page);
    if (!file) return context.options.screens.map((screen) => ({ screen, why: 'its file cannot be read' }));
    await context.images.read(addressesOf(file, context.urls));
    const looks = reader.read(file);
    const on = unreadIn(looks);
    if (on.length > 0) return on;
    const visits = looks.flatMap(({ screen, summary }) => (summary ? [{ screen, summary }] : []));
    const { record, ...joined } = await joinLooks(context, page, reader.whole(visits));
    this.#add({ ...joined, record: { ...record, read: true } });
    return [];
  }

  /** What was transferred elsewhere; of a picture that nobody fetched yet the file as it is: only text is compressed on the way. */
  #transferOf(url: string): Pick<Download, 'bytes' | 'type' | 'status'> | undefined {
    const known = this.#transfers.get(url);
    const file = this.context.images.fileOf(url);
    if (known || !file || file.problem !== undefined || file.format === 'svg') return known;
    const type = this.context.site.typeOf(url);
    return { bytes: file.bytes, type, status: 200 };
  }
}
