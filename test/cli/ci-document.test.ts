import { copyFile, readFile, stat, writeFile } from 'node:fs/promises';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { expect } from 'chai';
import { execa } from 'execa';
import { parse } from 'yaml';
import { page, photo, removeSites, siteOf } from '../support/program.js';

const program = fileURLToPath(new URL('../../dist/program/yukkuri.js', import.meta.url));
const document = await readFile(new URL('../../docs/ci.md', import.meta.url), 'utf8');
const examples = [...document.matchAll(/```yaml\n([^]*?)```/g)].map(
  ([, text]) => parse(text ?? '') as unknown,
);

interface Step {
  name?: string;
  run?: string;
}

const [hosted, gitlab] = examples as [
  { jobs: { images: { steps: Step[] } } },
  { images: { script: string[] } },
];
const scripts = {
  'the first example': hosted.jobs.images.steps.find(({ name }) => name === 'Audit')?.run ?? '',
  'the second example': gitlab.images.script.slice(2).join('\n'),
};

describe('the examples for CI', function () {
  this.timeout(180_000);
  after(removeSites);

  for (const [name, script] of Object.entries(scripts))
    it(`fail where something got worse, and not before: ${name}`, async () => {
      const folder = await siteOf({
        'public/index.html': page('<img src="a.jpg" width="300" height="200" alt="A hut">'),
        'public/a.jpg': await photo(300, 200),
        'yukkuri.config.json': JSON.stringify({
          screens: { desk: { width: 1000, height: 800, density: 1, share: 1 } },
        }),
      });
      // As the installed program would answer.
      const run = () =>
        execa('bash', ['-e', '-c', `npx() { shift; "${process.execPath}" "${program}" "$@"; }\n${script}`], {
          cwd: folder,
          reject: false,
        });
      const first = await run();
      expect(first.exitCode, first.stderr).to.equal(0);
      for (const file of ['run.json', 'comment.md', 'report.html'])
        expect((await stat(join(folder, file))).size, file).to.be.above(500);
      await copyFile(join(folder, 'run.json'), join(folder, 'baseline.json'));
      expect((await run()).exitCode).to.equal(0);
      await writeFile(
        join(folder, 'public/index.html'),
        page('<img src="none.jpg" width="300" height="200" alt="A hut">'),
      );
      expect((await run()).exitCode).to.equal(1);
    });
});
