import { expect } from 'chai';
import { checks } from '../../../src/core/checks/index.js';
import { writeFixes, type Written } from '../../../src/core/judging/fixes.js';
import { judge, type Judgement } from '../../../src/core/judging/judge.js';
import {
  candidateUrls,
  environmentOf,
  naturalSize,
  parseImage,
  pickImage,
  readImageMarkup,
} from '../../../src/core/markup/index.js';
import { resolveAddress } from '../../../src/core/plan/addresses.js';
import { pickStyle } from '../../../src/core/plan/style-rule.js';
import type { FileToMake, FixPlace, Placement, Screen } from '../../../src/core/run/index.js';
import { generatedSite, type GeneratedSite } from '../../support/generated-site.js';

/** `npm run conformance` looks at ten times as many sites. */
const sites = Math.max(150, Math.round(Number(process.env['YUKKURI_CASES'] ?? 0) / 4));

interface Promised {
  site: GeneratedSite;
  judgement: Judgement;
  written: Written;
  byId: Map<string, Placement>;
  made: Map<string, FileToMake>;
}

function promisesOf(seed: number): Promised {
  const site = generatedSite(seed);
  const judgement = judge(checks, site.world);
  const written = writeFixes(judgement);
  return {
    site,
    judgement,
    written,
    byId: new Map(site.world.placements.map((placement) => [placement.id, placement])),
    made: new Map(written.fixes.flatMap(({ files }) => files.map((file) => [file.name, file]))),
  };
}

/** What a text makes a screen take, read without the plan. */
function taken(
  text: string,
  { kind, base, style }: Placement,
  screen: Screen,
): { url: string; density: number } | undefined {
  if (style) {
    const option = pickStyle(text, style, environmentOf(screen));
    return option && { url: resolveAddress(option.url, base), density: option.density };
  }
  if (kind === 'preload') return undefined;
  if (kind === 'input' || kind === 'video-poster') {
    const written = /(?:src|poster)="([^"]+)"/.exec(text)?.[1] ?? '';
    return { url: resolveAddress(written, base), density: 1 };
  }
  const markup = readImageMarkup(text);
  const pick = markup && pickImage(parseImage(markup), environmentOf(screen));
  return pick && { url: resolveAddress(pick.url, base), density: pick.density };
}

const eachPlace = ({ written: { fixes } }: Promised): FixPlace[] =>
  fixes.filter(({ kind }) => kind === 'edit').flatMap(({ places }) => places);

const known = new Map<number, Promised>();

function all(check: (promised: Promised, seed: number) => void): void {
  for (let seed = 1; seed <= sites; seed++) {
    const promised = known.get(seed) ?? promisesOf(seed);
    known.set(seed, promised);
    check(promised, seed);
  }
}

describe(`the promises of fixes, on ${sites} generated sites`, function () {
  this.timeout(600_000);
  let edits = 0;
  after(() => known.clear());

  it('make every screen take exactly the file that is claimed, with the bytes that are claimed', () => {
    all((promised, seed) => {
      const { site, byId, made } = promised;
      for (const place of eachPlace(promised)) {
        const placement = byId.get(place.placement) as Placement;
        edits++;
        for (const screen of site.world.screens) {
          const claimed = place.takes[screen.name];
          if (!claimed || claimed.after === null || placement.kind === 'preload') continue;
          const pick = taken(place.after, placement, screen);
          expect(pick?.url, `${seed} ${place.placement} ${screen.name}: ${place.after}`).to.equal(
            claimed.after,
          );
          const bytes = made.get(claimed.after)?.bytes ?? site.world.files.get(claimed.after)?.bytes;
          expect(claimed.bytes, `${seed} ${claimed.after}`).to.equal(bytes);
        }
      }
    });
    expect(edits).to.be.above(sites);
  });

  it('name only files that are there or are to be made, each once, and overwrite none', () => {
    all((promised, seed) => {
      const { site, byId, made, written } = promised;
      for (const place of eachPlace(promised)) {
        const placement = byId.get(place.placement) as Placement;
        const markup = readImageMarkup(place.after);
        const named = markup
          ? candidateUrls(parseImage(markup))
          : [...place.after.matchAll(/url\(["']?([^"')]+)/g)].map(([, url = '']) => url);
        for (const url of named) {
          const resolved = resolveAddress(url, placement.base);
          expect(
            site.world.files.has(resolved) || made.has(resolved),
            `${seed} ${place.after}: ${resolved}`,
          ).to.equal(true);
        }
      }
      const contents = new Map<string, string>();
      for (const file of written.fixes.flatMap(({ files }) => files)) {
        const content = JSON.stringify([
          site.world.files.get(file.from)?.hash,
          file.width,
          file.format,
          file.recipe,
          file.bytes,
        ]);
        expect(contents.get(file.name) ?? content, `${seed} ${file.name}`).to.equal(content);
        contents.set(file.name, content);
        const taken = [...site.world.files.keys()].map((url) => url.replace(/\?.*/, '').toLowerCase());
        expect(taken, `${seed}`).not.to.include(file.name.toLowerCase());
      }
      expect(new Set(contents.values()).size, `${seed}`).to.equal(contents.size);
    });
  });

  it('leave every box as it is', () => {
    all((promised, seed) => {
      const { site, byId, made } = promised;
      for (const place of eachPlace(promised)) {
        const placement = byId.get(place.placement) as Placement;
        const layout = site.layouts.get(place.placement);
        if (!layout) continue;
        for (const screen of site.world.screens) {
          const [slot, claimed] = [placement.slots[screen.name], place.takes[screen.name]];
          const pick = typeof claimed?.after !== 'string' ? undefined : taken(place.after, placement, screen);
          const file = pick && (made.get(pick.url) ?? site.world.files.get(pick.url));
          const master = file && 'from' in file ? site.world.files.get(file.from) : file;
          if (!slot || !pick || !file || !master || !('height' in master)) continue;
          const height = 'height' in file ? file.height : (file.width * master.height) / master.width;
          const natural = naturalSize({ width: file.width, height }, pick.density);
          const width = layout.width(screen, natural.width);
          expect(width, `${seed} ${place.placement} ${screen.name}: ${place.after}`).to.be.closeTo(
            slot.width,
            Math.max(1, slot.width * 0.006),
          );
          expect(
            layout.height(width, screen, natural),
            `${seed} ${place.placement} ${screen.name}`,
          ).to.be.closeTo(slot.height, Math.max(1.5, slot.height * 0.012));
        }
      }
    });
  });

  it('add up: delivered is what remains and the shares, for each download, each page and all', () => {
    all(({ site: { world }, written: { fixes, ledger }, judgement }, seed) => {
      const shares = new Map(world.screens.map(({ name, share }) => [name, share]));
      const weights = new Map(world.pages.map(({ path, weight }) => [path, weight]));
      const byFix = new Map<string, number>();
      for (const { page, screen, delivered, cuts, remains, expected, expectedRemains } of ledger) {
        expect(remains + cuts.reduce((sum, { bytes }) => sum + bytes, 0), `${seed}`).to.equal(delivered);
        expect(expectedRemains + cuts.reduce((sum, cut) => sum + cut.expected, 0), `${seed}`).to.equal(
          expected,
        );
        for (const amount of [remains, expectedRemains]) expect(amount).to.be.at.least(0);
        for (const cut of cuts)
          byFix.set(
            cut.fix,
            (byFix.get(cut.fix) ?? 0) + (weights.get(page) ?? 0) * (shares.get(screen) ?? 0) * cut.expected,
          );
      }
      for (const { id, saves, steps, title } of fixes) {
        expect(saves.expected, `${seed} ${title}`).to.be.closeTo(byFix.get(id) ?? 0, 1);
        expect(steps.reduce((sum, step) => sum + step.expected, 0)).to.be.closeTo(
          saves.expected,
          steps.length + 1,
        );
      }
      // Each page once more, from what its images take: distinct files only.
      for (const { path } of world.pages)
        for (const { name } of world.screens) {
          const files = new Map<string, number>();
          for (const placement of world.placements) {
            if (placement.page !== path) continue;
            const last = judgement.facts.plan.taken(placement, name);
            if (last) files.set(last.file.id, Math.round(last.bytes));
          }
          const remains = ledger.filter(({ page, screen }) => page === path && screen === name);
          expect(
            remains.reduce((sum, entry) => sum + entry.remains, 0),
            `${seed} ${path} ${name}`,
          ).to.equal([...files.values()].reduce((sum, bytes) => sum + bytes, 0));
        }
    });
  });

  it('save what they say to a reader who works down the list', () => {
    all(({ written: { fixes } }, seed) => {
      const worth = fixes.map(({ saves }) => saves.expected);
      const sorted = worth.filter((bytes) => bytes > 0);
      expect(
        worth.slice(0, sorted.length).every((bytes) => bytes > 0),
        `${seed}: ${worth.join(' ')}`,
      ).to.equal(true);
    });
  });
});
