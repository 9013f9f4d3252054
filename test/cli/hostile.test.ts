import { readFile, writeFile } from 'node:fs/promises';
import { join } from 'node:path';
import { expect } from 'chai';
import { readRun, type Run } from '../../src/core/run/index.js';
import { encodedPages, hostileFiles, makeStrangeEntries, writeHostileFiles } from '../hostile/files.js';
import { hostilePages } from '../hostile/pages.js';
import { page, photo, removeSites, siteOf, yukkuri } from '../support/program.js';

/** All kinds, those that take long among them, where they are asked for. */
const whole = process.env['YUKKURI_HOSTILE'] === 'all';

/** Of the usual run every third: all of them, the long ones too, run in `npm run hostile`. */
const someOf = <Kind extends { long?: boolean }>(kinds: [string, Kind][]): [string, Kind][] =>
  whole ? kinds : kinds.filter(([, kind], index) => index % 3 === 0 && !kind.long);

const options = ['--encode', 'enough', '--screen', 'desk=1000x800@1'];
/** Pages that never end, end sooner. */
const impatient = whole ? [] : ['--page-limit', '60'];

const soundImage = (run: Run, path: string) =>
  run.placements
    .filter(
      ({ page: own, candidates, kind }) =>
        own === path &&
        (kind === 'img' || kind === 'picture') &&
        candidates.some((url) => url === '/sound.jpg' || url === '/h%C3%BCtte.jpg'),
    )
    .map(({ shown }) => shown['desk']?.state);

/** Each sentence once: a page of thousands of images says thousands of times the same. */
const saidOf = (run: Run, path: string) =>
  [
    ...new Set([
      ...run.incomplete.filter(({ page: own }) => own === path).map(({ why }) => why),
      ...run.findings.filter(({ placement }) => placement.startsWith(`${path}#`)).map(({ says }) => says),
      ...run.redirected.filter(({ page: own }) => own === path).map(({ to }) => `leads to ${to}`),
    ]),
  ].join('\n');

/** Runs of such pages are too large for a pipe. */
async function auditToFile(folder: string, more: readonly string[] = []): Promise<Run> {
  const file = join(await siteOf({}), 'run.json');
  const { err } = await yukkuri(['audit', folder, ...options, ...more, '--json', file]);
  return readRun(JSON.parse(await readFile(file, 'utf8').catch(() => JSON.stringify(err))));
}

/** What nobody should have to read: names of the protocol, of functions, of this program's own faults. */
const ofTheProgram =
  /fault of Yukkuri|undefined|\[object|uniqueContextId|Runtime\.|Protocol error|TypeError|RangeError/;

describe('a hostile site', function () {
  this.timeout(1_800_000);
  after(removeSites);

  it('of pages that make trouble costs what each of them is, and says why', async () => {
    const kinds = someOf(Object.entries(hostilePages));
    const folder = await siteOf({
      'index.html': page('<img src="/sound.jpg" width="300" height="200" alt="A hut">'),
      'second.html': page('<p>second</p>'),
      'sound.jpg': await photo(600, 400),
    });
    for (const [name, { html, files = {} }] of kinds)
      for (const [file, content] of Object.entries({ ...files, [`${name}.html`]: html }))
        await writeFile(join(folder, file), content);
    const run = await auditToFile(folder, impatient);
    const wrong = kinds.flatMap(([name, { seen, says }]) => {
      const path = `/${name}.html`;
      const [state = 'not visited'] =
        run.pages.find((each) => each.path === path)?.visits.map((visit) => visit.state) ?? [];
      const said = saidOf(run, path);
      return [
        ...(seen && !soundImage(run, path).includes('drawn')
          ? [`${name}: its image is not seen (${state}): ${said}`]
          : []),
        ...(seen && !says && state !== 'complete' ? [`${name} is ${state}: ${said}`] : []),
        ...(says && !says.test(said) ? [`${name} says ${said}`] : []),
        ...(ofTheProgram.test(said) ? [`${name} speaks of the program: ${said}`] : []),
        ...(state === 'not visited' ? [`${name} is not visited`] : []),
      ];
    });
    expect(wrong).to.deep.equal([]);
    expect(soundImage(run, '/')).to.deep.equal(['drawn']);
    expect(run.pages.find(({ path }) => path === '/')?.visits[0]?.state).to.equal('complete');
  });

  it('has a page that crashes, which is told then, however long a page may take', async function () {
    this.timeout(120_000);
    const crashes = hostilePages['nested-until-it-crashes'];
    const folder = await siteOf({ 'index.html': crashes?.html ?? '' });
    const { incomplete } = await auditToFile(folder, ['--page-limit', '3600']);
    expect(incomplete.map(({ why }) => why)).to.deep.equal(['the page crashed in the browser']);
  });

  it('of files that make trouble is seen whole, and each is named with what is wrong', async () => {
    const folder = await siteOf({
      'sound.jpg': await photo(600, 400),
      'hütte.jpg': await photo(600, 400),
      ...encodedPages,
    });
    const pages = await writeHostileFiles(
      folder,
      Object.fromEntries(someOf(Object.entries(await hostileFiles()))),
    );
    await makeStrangeEntries(folder);
    const run = await auditToFile(folder);
    for (const [path, { says }] of pages) {
      expect(soundImage(run, path), path).to.include('drawn');
      expect(run.pages.find((each) => each.path === path)?.visits[0]?.state, path).to.equal('complete');
      const said = saidOf(run, path);
      if (says) expect(said, path).to.match(says);
      expect(said, path).to.not.match(ofTheProgram);
    }
    for (const file of Object.keys(encodedPages)) {
      expect(soundImage(run, `/${file}`), file).to.deep.equal(['drawn']);
      expect(run.placements.find(({ page: own }) => own === `/${file}`)?.source, file).to.include({ file });
    }
    const paths = run.pages.map(({ path }) => path);
    expect(paths).to.include('/real/').and.to.include('/strange.html');
    for (const strange of ['/another/', '/outside.html', '/pipe.html', '/folder.html', '/real/up/'])
      expect(paths).to.not.include(strange);
    expect(
      run.files.filter(({ url }) => url.startsWith('/outside/')).map(({ problem }) => problem),
    ).to.deep.equal(['there is no such file']);
  });
});
