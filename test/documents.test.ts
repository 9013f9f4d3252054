import { readdir, readFile } from 'node:fs/promises';
import { expect } from 'chai';
import { checksDocument } from '../scripts/checks-document.js';
import { checks } from '../src/core/checks/index.js';
import { headerCases } from './support/header-cases.js';
import { runJsonSchema } from '../src/core/run/index.js';

const root = new URL('../', import.meta.url);
const read = (path: string) => readFile(new URL(path, root), 'utf8');

describe('the documents', () => {
  it('describe every check as it describes itself', async () => {
    expect(await read('docs/checks.md')).to.equal(checksDocument());
  });

  it('list every option of the audit', async () => {
    const texts = await Promise.all(
      [
        'audit-options',
        'outputs',
        'configuration/options',
        'audit-command',
        'price-options',
        'target-options',
      ].map((name) => read(`src/cli/${name}.ts`)),
    );
    const options = texts.join('\n').match(/'--[a-z-]+/g) ?? [];
    expect(options.length).to.be.above(30);
    const readme = await read('README.md');
    for (const option of options) expect(readme).to.contain(option.slice(1));
  });

  it('publish the schema by which runs are checked', async () => {
    expect(JSON.parse(await read('docs/run.schema.json'))).to.deep.equal(runJsonSchema());
  });

  it('show every picture in the README', async () => {
    const readme = await read('README.md');
    for (const name of await readdir(new URL('docs/screenshots/', root))) expect(readme).to.include(name);
  });

  it('link to pictures that are there', async () => {
    const shots = await readdir(new URL('docs/screenshots/', root));
    for (const file of [
      'README.md',
      ...(await readdir(new URL('docs/', root)))
        .filter((name) => name.endsWith('.md'))
        .map((name) => `docs/${name}`),
    ]) {
      for (const [, name] of (await read(file)).matchAll(/screenshots\/([\w-]+\.png)/g))
        expect(shots).to.include(name);
    }
  });
});

describe('the checks', () => {
  it('each have a file of their own, an id, and a case that triggers and one that must not: in the demo, or as a server’s answer', async () => {
    const files = await readdir(new URL('src/core/checks/', root), { recursive: true });
    const { planted, neighbours } = JSON.parse(await read('demo/manifest.json')) as Record<
      string,
      { need: string }[]
    >;
    for (const { id } of checks) {
      const [file = '', ...others] = files.filter((each) => each.endsWith(`/${id}.ts`));
      expect([file === '', others]).to.deep.equal([false, []]);
      // No folder has answers of a server; these are held in test/core/checks/headers.test.ts.
      if (file.startsWith('headers/')) {
        expect(headerCases, id).to.have.property(id);
        continue;
      }
      expect(
        planted?.some(({ need }) => need === id),
        `planted: ${id}`,
      ).to.equal(true);
      expect(
        neighbours?.some(({ need }) => need === id),
        `neighbour: ${id}`,
      ).to.equal(true);
    }
  });
});
