import { mkdtemp, readFile, rm, symlink, writeFile } from 'node:fs/promises';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { expect } from 'chai';
import { execa } from 'execa';
import { apiReports } from '../scripts/api-reports.js';
import { page, photo, removeSites, siteOf } from './support/program.js';

const root = fileURLToPath(new URL('..', import.meta.url));
const document = await readFile(`${root}/docs/library.md`, 'utf8');
const examples = [...document.matchAll(/^## ([^\n]*)\n[^]*?```js\n([^]*?)```/gm)].map(
  ([, title = '', code = '']) => ({
    title,
    code,
  }),
);

describe('the library', function () {
  this.timeout(180_000);
  let folder = '';
  let modules = '';
  before(async () => {
    folder = await siteOf({
      'public/index.html': page('<p>A hut</p><img src="a.jpg" width="200" height="150" alt="A hut">'),
      'public/a.jpg': await photo(600, 450),
    });
    // A package finds itself by its name from inside its own folder.
    modules = await mkdtemp(join(root, 'dist/examples-'));
    await symlink(join(folder, 'public'), join(modules, 'public'));
  });
  after(() => Promise.all([removeSites(), rm(modules, { recursive: true, force: true })]));

  it('has examples for each of its parts', () => {
    expect(examples.map(({ title }) => title)).to.deep.equal([
      'Audit, and report',
      'Compare, and hold limits',
      'Mend a copy, and prove it',
      'Computation alone',
    ]);
  });

  for (const { title, code } of examples)
    it(`does what the example says, and prints nothing: ${title}`, async () => {
      const file = join(modules, `${title.replace(/\W+/g, '-')}.mjs`);
      await writeFile(file, code.replaceAll(`'copy'`, `'${join(folder, 'copy')}'`));
      const { exitCode, stdout, stderr } = await execa(process.execPath, [file], {
        cwd: folder,
        reject: false,
      });
      expect(stderr).to.equal('');
      expect(stdout).to.equal('');
      expect(exitCode).to.equal(0);
    });

  it('ends with the reason of its signal', async () => {
    const file = join(modules, 'ends.mjs');
    await writeFile(
      file,
      `import { audit, openSite } from 'yukkuri';
       const site = await openSite('public');
       const stop = new AbortController();
       const auditing = audit(site, { encode: 'none', signal: stop.signal });
       const stages = [];
       for await (const { stage } of auditing.progress) { stages.push(stage); stop.abort(new Error('enough')); }
       await auditing.catch((cause) => console.log(cause.message, stages[0]));
       await site.close();`,
    );
    const { stdout } = await execa(process.execPath, [file], { cwd: folder, reject: false });
    expect(stdout).to.equal('enough visits');
  });

  it('has the types that were reviewed', () => {
    expect(apiReports({ write: false }), 'look at the difference, then run "npm run api"').to.deep.equal([]);
  });
});
