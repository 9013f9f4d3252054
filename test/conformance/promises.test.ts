import { rm } from 'node:fs/promises';
import { expect } from 'chai';
import type { Placement, Run } from '../../src/core/run/index.js';
import { generatedPages } from '../support/generated-pages.js';
import { pasteFixes } from '../support/mended.js';
import { auditRun, removeSites, siteOf } from '../support/program.js';

const whole = Number(process.env['YUKKURI_CASES'] ?? 0) >= 10_000;
const pagesEach = whole ? 12 : 3;
const seeds = whole ? [1, 2, 3, 4, 5, 6] : [1];
const screens = ['--screen', 'phone=390x844@3,touch,share=0.6', '--screen', 'desk=1280x800@1,share=0.4'];

/** What each page downloads on each screen once everything is pasted, as the run claims. */
function claimed(run: Run): Map<string, Set<string>> {
  const takes = new Map(
    run.fixes
      .flatMap(({ kind, places }) => (kind === 'edit' ? places : []))
      .map((place) => [place.placement, place.takes]),
  );
  const pages = new Map<string, Set<string>>();
  for (const { path, visits } of run.pages)
    for (const { screen, downloads } of visits) {
      const placed = new Set<string>();
      const after = new Set<string>();
      for (const { id, page, downloads: own } of run.placements) {
        const url = own[screen]?.url;
        if (page !== path || url === undefined) continue;
        placed.add(url);
        const taken = takes.get(id)?.[screen];
        const then = taken ? taken.after : url;
        if (then !== null) after.add(then);
      }
      for (const { url } of downloads) if (!placed.has(url)) after.add(url);
      pages.set(`${path} ${screen}`, after);
    }
  return pages;
}

/** Boxes of the images of a page, in the order of the document. */
const boxes = ({ placements }: Run, path: string, screen: string) =>
  placements
    .filter(({ page, kind }) => page === path && (kind === 'img' || kind === 'picture'))
    .map(({ slots }: Placement) => slots[screen] ?? null);

/** Files have whole px: a smaller version is up to half a px higher or lower, which a box that follows its shape shows enlarged. */
function sameBoxes(before: Run, after: Run, path: string, screen: string): void {
  const [old, now] = [boxes(before, path, screen), boxes(after, path, screen)];
  expect(now.length).to.equal(old.length);
  old.forEach((box, index) => {
    const other = now[index] ?? null;
    expect(other === null, `${path} ${screen} ${index}`).to.equal(box === null);
    if (!box || !other) return;
    expect(other.width, `${path} ${screen} ${index}`).to.be.closeTo(
      box.width,
      Math.max(1, box.width * 0.005),
    );
    expect(other.height, `${path} ${screen} ${index}`).to.be.closeTo(
      box.height,
      Math.max(1.5, box.height * 0.01),
    );
  });
}

describe(`pasted fixes, on ${seeds.length * pagesEach} generated pages in the browser`, function () {
  this.timeout(1_200_000);
  after(removeSites);

  for (const seed of seeds)
    it(`make pages download what was claimed, address by address, in the same boxes (site ${seed})`, async () => {
      const folder = await siteOf(await generatedPages(seed, pagesEach));
      const run = await auditRun(folder, ...screens);
      const copy = await pasteFixes(folder, run);
      try {
        const again = await auditRun(copy, ...screens);
        const wanted = claimed(run);
        const seen: Record<string, string[]> = {};
        const promised: Record<string, string[]> = {};
        for (const { path, visits } of again.pages)
          for (const { screen, downloads } of visits) {
            const key = `${path} ${screen}`;
            seen[key] = [...new Set(downloads.map(({ url }) => url))].sort();
            promised[key] = [...(wanted.get(key) ?? [])].sort();
          }
        expect(seen).to.deep.equal(promised);
        expect(again.findings.filter(({ check }) => check === 'does-not-load')).to.deep.equal([]);
        for (const { path } of run.pages)
          for (const { name } of run.screens) sameBoxes(run, again, path, name);
        expect(run.fixes.filter(({ saves }) => saves.expected > 0).length).to.be.above(5);
      } finally {
        await rm(copy, { recursive: true, force: true });
      }
    });
});
