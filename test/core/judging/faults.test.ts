import { expect } from 'chai';
import { checks } from '../../../src/core/checks/index.js';
import { Faults } from '../../../src/core/judging/faults.js';
import type { World } from '../../../src/core/judging/facts.js';
import { writeFixes } from '../../../src/core/judging/fixes.js';
import { judge } from '../../../src/core/judging/judge.js';
import type { Placement } from '../../../src/core/run/index.js';
import { generatedSite } from '../../support/generated-site.js';

/** A placement that makes whatever asks it for a property fail, as long as that is done by one module. */
function poisoned(placement: Placement, property: keyof Placement, module: string): Placement {
  const value = placement[property];
  const made = { ...placement };
  Object.defineProperty(made, property, {
    enumerable: true,
    get() {
      if ((new Error().stack ?? '').includes(`/${module}.ts`)) throw new Error('poison');
      return value;
    },
  });
  return made;
}

function judged(world: World) {
  const faults = new Faults();
  const { fixes, findings } = writeFixes(judge(checks, { ...world, faults }));
  return { fixes, findings, faults: faults.list };
}

/** Sites of which two pages share no file, so that nothing of the one hangs on the other. */
const seeds = Array.from({ length: 24 }, (_, index) => index + 1);

describe('a fault in the judgement', () => {
  for (const [stage, property, module] of [
    ['a check that looks at it', 'kind', 'no-dimensions'],
    ['a check that looks at how it is stored', 'kind', 'encodings'],
    ['what keeps its looks', 'slots', 'looks-kept'],
    ['what writes its fix', 'downloads', 'fix-writer'],
  ] as const)
    it(`costs what one image has of it: ${stage}`, () => {
      let [caught, spared] = [0, 0];
      for (const seed of seeds) {
        const { world } = generatedSite(seed);
        const { findings, faults: none } = judged(world);
        expect(none).to.deep.equal([]);
        const victim = world.placements[seed % world.placements.length] as Placement;
        const placements = world.placements.map((each) =>
          each === victim ? poisoned(each, property, module) : each,
        );
        const { faults, findings: left, fixes } = judged({ ...world, placements });
        for (const { page, why } of faults) {
          expect(page).to.equal(victim.page);
          expect(why).to.match(/failed at .*: poison\. This is a fault of Yukkuri: please report it/);
        }
        caught += faults.length;
        const elsewhere = (all: typeof findings) =>
          new Set(
            all
              .filter(({ placement }) => !placement.startsWith(`${victim.page}#`))
              .map(({ check, placement }) => `${check} ${placement}`),
          );
        // What another page says may hang on a file that both show; most of it stands.
        const [before, after] = [elsewhere(findings), elsewhere(left)];
        const lost = [...before].filter((each) => !after.has(each));
        expect(lost.length, `${seed}: ${lost.join()}`).to.be.at.most(Math.ceil(before.size * 0.2));
        spared += after.size;
        for (const { findings: own } of fixes)
          for (const index of own) expect(left[index]).to.not.equal(undefined);
      }
      expect(caught, 'faults').to.be.above(10);
      expect(spared, 'findings of other pages').to.be.above(10);
    });
});
