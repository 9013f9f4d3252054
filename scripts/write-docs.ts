/** Writes docs/checks.md from what the checks say of themselves, and the JSON Schema of runs. With --check it only compares. */
import { readFile, writeFile } from 'node:fs/promises';
import { runJsonSchema } from '../src/core/run/index.js';
import { checksDocument } from './checks-document.js';

const texts = {
  'checks.md': checksDocument(),
  'run.schema.json': `${JSON.stringify(runJsonSchema(), null, 2)}\n`,
};
for (const [name, text] of Object.entries(texts)) {
  const file = new URL(`../docs/${name}`, import.meta.url);
  if (!process.argv.includes('--check')) await writeFile(file, text);
  else if ((await readFile(file, 'utf8')) !== text)
    throw new Error(`docs/${name} is out of date: run "npm run docs".`);
}
