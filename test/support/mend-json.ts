import { readFile } from 'node:fs/promises';
import { join } from 'node:path';
import { expect } from 'chai';
import { siteOf, yukkuri } from './program.js';

interface Proved {
  promised: number;
  achieved: number;
  kept: boolean;
  reasons: string[];
}

export interface MendOutput {
  fixes: { id: string }[];
  left: { fix: string; why: string }[];
  edited: string[];
  elsewhere: { fix: string; title: string; files: string[] }[];
  files: { name: string; bytes: number; promised: number; problem: string | null }[];
  proof: {
    average: Proved;
    screens: Record<string, Proved>;
    fixes: Record<string, Proved>;
    findings: { went: number; stayed: number };
    layout: { changes: unknown[]; problems: unknown[]; pages: number };
    lost: unknown[];
    later: { url: string; screen: string; bytes: number }[];
    kept: boolean;
  } | null;
}

/** Two screens are enough to see whether promises are kept. */
export const mendScreens = [
  '--screen',
  'phone=400x800@2,touch,share=0.6',
  '--screen',
  'desk=1200x800@1,share=0.4',
];

/** Mends a folder on two screens, and gives what was done and proved. */
export const mendJson = async (
  ...args: string[]
): Promise<{ code: number | undefined; out: MendOutput; err: string }> => {
  const { code, out, err } = await yukkuri(['mend', ...args, ...mendScreens, '--json']);
  return { code, out: JSON.parse(out) as MendOutput, err };
};

/**
 * Mends a site; no element of it may lie elsewhere afterwards, and every promise must be kept.
 * @returns the copy, its `index.html`, and the tags of that by their text alternatives
 */
export async function mendedInPlace(
  folder: string,
  ...options: string[]
): Promise<{ copy: string; mended: string; tagOf: (alt: string) => string | undefined }> {
  const copy = join(await siteOf({}), 'copy');
  const { out, code } = await mendJson(folder, '--to', copy, ...options);
  expect(out.proof?.layout.changes).to.deep.equal([]);
  expect(code).to.equal(0);
  const mended = await readFile(join(copy, 'index.html'), 'utf8');
  const tagOf = (alt: string) => mended.match(new RegExp(`<img[^>]*alt="${alt}"[^>]*>`))?.[0];
  return { copy, mended, tagOf };
}
