/** Writes docs/checks.md from what the checks say of themselves. With --check it only compares. */
import { readFile, writeFile } from 'node:fs/promises';
import { checksDocument } from './checks-document.js';

const file = new URL('../docs/checks.md', import.meta.url);
const text = checksDocument();
if (process.argv.includes('--check')) {
  if ((await readFile(file, 'utf8')) !== text)
    throw new Error('docs/checks.md is out of date: run "npm run docs".');
} else {
  await writeFile(file, text);
}
