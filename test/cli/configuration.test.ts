import { mkdir, readFile, writeFile } from 'node:fs/promises';
import { join } from 'node:path';
import { expect } from 'chai';
import type { Run } from '../../src/core/run/index.js';
import { page, photo, removeSites, siteOf, yukkuri } from '../support/program.js';

describe('a configuration', function () {
  this.timeout(180_000);
  after(removeSites);

  const settings = `
screens:
  small: { width: 400, height: 800, density: 2, touch: true, share: 0.75 }
  wide: { width: 1000, height: 800, share: 0.25 }
encode: none
leave:
  - { check: no-dimensions, selector: .old, reason: the old template }
  - { check: no-dimensions, pages: /past/**, reason: nobody looks, until: 2020-01-01 }
limits:
  - { pages: '/', firstView: 1 kB }
  - { checks: { no-dimensions: 0 }, pages: '/past/**' }
`;
  let work = '';
  let run: Run;
  let outcome: Awaited<ReturnType<typeof yukkuri>>;

  before(async () => {
    work = await siteOf({
      'yukkuri.config.yaml': settings,
      'deep/below/here.txt': '',
      'site/index.html': page(
        '<p>a</p><div class="old"><img src="/a.jpg" alt="one"></div><img src="/a.jpg" alt="two" data-yukkuri-leave="no-dimensions: by hand"><img src="/a.jpg" alt="three">',
      ),
      'site/past/index.html': page('<p>a</p><img src="/a.jpg" alt="four">'),
      'site/a.jpg': await photo(300, 200),
    });
    // It holds in the folders below its own.
    outcome = await yukkuri(['audit', '../../site', '--json', 'run.json'], {}, join(work, 'deep/below'));
    run = JSON.parse(await readFile(join(work, 'deep/below/run.json'), 'utf8')) as Run;
  });

  it('gives screens by name and options of the audit, from above', () => {
    expect(run.screens.map(({ name, density, share, touch }) => [name, density, share, touch])).to.deep.equal(
      [
        ['small', 2, 0.75, true],
        ['wide', 1, 0.25, false],
      ],
    );
    expect(run.pricing.encoded).to.equal(0);
  });

  it('leaves findings out by selector and by markup, with their reasons, and tells of what is over', () => {
    const without = run.findings
      .filter(({ check }) => check === 'no-dimensions')
      .map(({ placement }) => run.placements.find(({ id }) => id === placement)?.alt);
    expect(without).to.have.members(['three', 'four']);
    const reasons = run.leftOut.map(({ placement, reason, expired }) => [
      run.placements.find(({ id }) => id === placement)?.alt,
      reason,
      expired,
    ]);
    expect(reasons).to.have.deep.members([
      ['one', 'the old template', false],
      ['two', 'by hand', false],
      ['four', 'nobody looks', true],
    ]);
    expect(outcome.out).to.include('Left out by choice: 2 findings');
    expect(outcome.out).to.include('No longer left out, since the day is over: 1 finding');
  });

  it('ends with 1 beyond a limit, and names the page, by how much, and the fix', async () => {
    expect(outcome.code).to.equal(1);
    const text = outcome.out.replace(/\s+/g, ' ');
    const bytes = (await readFile(join(work, 'site/a.jpg'))).length;
    const over = ((bytes - 1000) / 1000).toFixed(bytes < 10_950 ? 1 : 0);
    expect(text)
      .to.include(`/ on small: the first view’s images weigh`)
      .and.to.include(`${over} kB over the limit of 1.0 kB`);
    const fix = run.fixes.find(
      ({ pages, checks }) => pages.includes('/past/') && checks.includes('no-dimensions'),
    );
    expect(text).to.include(
      `/past/: 1 finding of no-dimensions, 0 allowed. This fix brings it under: ${fix?.id}.`,
    );
  });

  it('counts only what is new or worse where there is a baseline', async () => {
    const baseline = join(work, 'deep/below/run.json');
    const same = await yukkuri(['audit', 'site', '--baseline', baseline], {}, work);
    expect(same.code, same.out).to.equal(0);
    expect(same.out).to.include('0 findings appeared, 0 got worse');
    await writeFile(
      join(work, 'site/past/index.html'),
      page('<p>a</p><img src="/a.jpg" alt="four"><img src="/none.jpg" width="9" height="9" alt="five">'),
    );
    const later = join(work, 'later.json');
    const worse = await yukkuri(['audit', 'site', '--baseline', baseline, '--json', later], {}, work);
    expect(worse.code).to.equal(1);
    expect(worse.out).to.include('1 finding appeared').and.to.include('does-not-load');
    const compared = await yukkuri(['compare', baseline, later, '--json']);
    expect(compared.code).to.equal(1);
    const { findings } = JSON.parse(compared.out) as {
      findings: { appeared: { check: string; page: string }[] };
    };
    expect(findings.appeared.map(({ check, page: path }) => [check, path])).to.deep.equal([
      ['does-not-load', '/past/'],
    ]);
    const back = await yukkuri(['compare', later, baseline, '--markdown', '-']);
    expect(back.code, back.out).to.equal(0);
    expect(back.out).to.include('### Findings that went (1)');
  });

  it('names every mistake with its place and the nearest right name, in TypeScript too', async () => {
    const file = join(work, 'wrong.config.ts');
    await writeFile(
      file,
      `const most: number = 0;
       export default { looks: 'high', lok: 1, screens: { a: { width: 1.5, heigth: 2 } },
         limits: [{ page: '/', checks: { 'no-dimension': most } }], leave: [{ check: 'upscale', until: 'soon' }] };`,
    );
    const { code, err } = await yukkuri(['audit', 'site', '--config', file], {}, work);
    expect(code).to.equal(2);
    for (const mistake of [
      'looks: must be a number; it is "high"',
      'lok: there is no such setting; did you mean "looks"?',
      'screens.a.heigth: there is no such setting; did you mean "height"?',
      'screens.a.width: must be a whole number',
      'screens.a.height: is missing',
      'limits[0].page: there is no such setting; did you mean "pages"?',
      'limits[0].checks.no-dimension: there is no such check; did you mean "no-dimensions"?',
      'leave[0].check: there is no such check; did you mean "upscaled"?',
      'leave[0].until: must be a day, such as 2026-12-31',
    ])
      expect(err).to.include(mistake);
    const none = await yukkuri(['audit', 'site', '--config', 'none.json'], {}, work);
    expect(none.code).to.equal(2);
    expect(none.err).to.include('none.json');
  });

  it('is written by init from what the folder holds, and never over another', async () => {
    const fresh = join(work, 'fresh');
    await mkdir(fresh);
    const made = await yukkuri(['init', '../site'], {}, fresh);
    expect(made.code, made.err).to.equal(0);
    const { code, out } = await yukkuri(
      ['audit', '../site', '--page', '/', '--encode', 'none', '--json'],
      {},
      fresh,
    );
    expect(code).to.equal(0);
    expect((JSON.parse(out) as Run).screens.map(({ name }) => name)).to.deep.equal([
      'phone',
      'tablet',
      'laptop',
      'desktop',
    ]);
    const again = await yukkuri(['init'], {}, fresh);
    expect(again.code).to.equal(2);
    expect(again.err).to.include('is there already');
  });

  it('is not needed to look at a saved run again: by page, by picture, by check, and why', async () => {
    const saved = join(work, 'deep/below/run.json');
    const by = async (...args: string[]) => (await yukkuri(['report', saved, ...args])).out;
    expect(await by('--by', 'page')).to.match(/Pages +saved per visit of the page/);
    const pictures = await by('--by', 'picture', '--page', '/past/');
    expect(pictures)
      .to.include('/a.jpg')
      .and.to.include('past/index.html:')
      .and.to.not.match(/at +index\.html/);
    const wrong = await yukkuri(['report', saved, '--check', 'no-dimension']);
    expect(wrong.code).to.equal(2);
    expect(wrong.err).to.include('did you mean "no-dimensions"?');
    const why = await yukkuri(['why', saved, 'past/index.html', '--json']);
    expect(why.code, why.err).to.equal(0);
    expect(why.out).to.include('a.jpg');
    expect((await yukkuri(['why', saved, '/nope/'])).err).to.include(
      'The run has no page "/nope/". It has /, /past/.',
    );
    expect((await yukkuri(['why', saved, '/', '--match', 'img'])).code).to.equal(2);
    expect((await yukkuri(['sizes', saved])).code).to.equal(0);
  });
});
