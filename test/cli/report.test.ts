import { readFile, writeFile } from 'node:fs/promises';
import { join } from 'node:path';
import { expect } from 'chai';
import { parse } from 'csv-parse/sync';
import type { Run } from '../../src/core/run/index.js';
import { page, photo, removeSites, siteOf, yukkuri } from '../support/program.js';

const screens = ['--screen', 'phone=400x800@2,share=0.6', '--screen', 'desk=1000x800@1,share=0.4'];

describe('yukkuri report', function () {
  this.timeout(120_000);
  let folder = '';
  let saved = '';
  let printed = '';
  let run: Run;

  before(async () => {
    folder = await siteOf({
      'index.html': page(
        '<img src="a.jpg" width="300" height="225" alt="=HYPERLINK(&quot;http://x.invalid&quot;)"><img src="none.jpg" alt="two\nlines, &quot;quoted&quot;">',
      ),
      'other.html': page('<img src="a.jpg" width="300" height="225" alt="-1+1">'),
      'a.jpg': await photo(900, 675),
    });
    saved = join(await siteOf({}), 'run.json');
    printed = (await yukkuri(['audit', folder, ...screens, '--json', saved])).out;
    run = JSON.parse(await readFile(saved, 'utf8')) as Run;
  });
  after(removeSites);

  const table = async (name: string) => {
    const { out, code, err } = await yukkuri(['report', saved, '--csv', name]);
    expect(code, err).to.equal(0);
    return parse(out, { columns: true, record_delimiter: '\r\n' }) as Record<string, string>[];
  };

  it('shows a saved run as the audit showed it', async () => {
    const { out, code } = await yukkuri(['report', saved]);
    expect(code).to.equal(0);
    expect(out).to.equal(printed);
    expect((await yukkuri(['report', saved, '--limit', '0,0'])).out.length).to.be.below(printed.length);
  });

  it('writes fixes, placements, downloads and pages as tables with the numbers of the run', async () => {
    const fixes = await table('fixes');
    expect(fixes.map(({ rank, id, saves }) => [rank, id, saves])).to.deep.equal(
      run.fixes.map(({ id, saves }, index) => [`${index + 1}`, id, `${saves.expected}`]),
    );
    expect(fixes.map((fix) => fix['saves on phone'])).to.deep.equal(
      run.fixes.map(({ saves }) => `${saves.screens['phone'] ?? 0}`),
    );
    const bytes = `${(await readFile(join(folder, 'a.jpg'))).length}`;
    const placements = await table('placements');
    expect(placements).to.have.length(3);
    expect(placements[0]).to.include({
      placement: '/#1',
      'slot width on phone': '300',
      'slot height on desk': '225',
      'takes on desk': '/a.jpg',
      'bytes on desk': bytes,
      'began on phone': 'first-view',
    });
    const downloads = await table('downloads');
    const pictures = downloads.filter(({ address, status }) => address === '/a.jpg' && status === '200');
    // Two pages on two screens.
    expect(pictures.map(({ bytes: each }) => each)).to.deep.equal(Array(4).fill(bytes));
    const pages = await table('pages');
    expect(pages.map(({ page: path, screen, seen }) => [path, screen, seen])).to.deep.equal([
      ['/', 'phone', 'complete'],
      ['/', 'desk', 'complete'],
      ['/other.html', 'phone', 'complete'],
      ['/other.html', 'desk', 'complete'],
    ]);
    expect(pages[2]?.['bytes']).to.equal(bytes);
  });

  it('hands spreadsheets no formula, and one line for each row', async () => {
    const { out } = await yukkuri(['report', saved, '--csv', 'placements']);
    expect(out.split('\r\n')).to.have.length(4);
    const alternatives = (await table('placements')).map((row) => row['text alternative']);
    expect(alternatives).to.deep.equal([
      `'=HYPERLINK("http://x.invalid")`,
      'two\\u{a}lines, "quoted"',
      `'-1+1`,
    ]);
  });

  it('writes several tables to files, and refuses what makes no sense', async () => {
    const target = await siteOf({});
    const [fixes, pages] = [join(target, 'fixes.csv'), join(target, 'pages.csv')];
    const both = await yukkuri(['report', saved, '--csv', `fixes=${fixes}`, '--csv', `pages=${pages}`]);
    expect([both.code, both.out]).to.deep.equal([0, '']);
    // RFC 4180: lines end with CR LF, the last one too.
    expect((await readFile(fixes, 'utf8')).split('\r\n')).to.have.length(run.fixes.length + 2);
    expect((await readFile(pages, 'utf8')).split('\r\n')).to.have.length(6);
    await writeFile(join(target, 'old.json'), '{"format":"yukkuri-run/1"}');
    for (const [args, said] of [
      [[saved, '--csv', 'images'], /--csv must be one of fixes, placements, downloads, pages/],
      [[saved, '--csv', 'fixes', '--csv', 'pages'], /Only one can go to standard output/],
      [[saved, '--csv', `fixes=${join(target, 'no', 'x.csv')}`], /table of fixes cannot be written/],
      [[join(target, 'none.json')], /is no run of this version: .*no such file/],
      [[join(target, 'old.json')], /is no run of this version/],
    ] as const) {
      const { code, err } = await yukkuri(['report', ...args]);
      expect(code, err).to.equal(2);
      expect(err).to.match(said);
    }
  });
});
