import { expect } from 'chai';
import type { SlotSweep } from '../../dist/src/core/run/index.js';
import { sweepTemplates, type PageToSweep } from '../../dist/src/survey/swept-templates.js';

const pageOf = (path: string, signs: string[], skeleton = 'one'): PageToSweep => ({
  path,
  skeleton,
  contentHash: path,
  signs: signs.map((each, index) => ({ id: `${path}#${index + 1}`, signs: each })),
});

/** Sweeps pages that exist only here: the slot of each placement is told by its page and signs. */
async function sweepAll(
  pages: PageToSweep[],
  slotOf: (path: string, signs: string) => number | undefined = () => 300,
) {
  const swept: string[] = [];
  const done: string[] = [];
  const result = await sweepTemplates(
    pages,
    (path) => {
      swept.push(path);
      const own = pages.find((page) => page.path === path)?.signs ?? [];
      const sweeps = own.flatMap(({ id, signs }): SlotSweep[] => {
        const slot = slotOf(path, signs);
        const pieces = [{ from: 320, slotFrom: slot ?? 0, to: 2560, slotTo: slot ?? 0 }];
        const rest = { write: null, reason: null, holds: 1, worst: 0 };
        return slot === undefined ? [] : [{ placement: id, pieces, constant: slot, ...rest }];
      });
      return Promise.resolve(new Map(sweeps.map((each) => [each.placement, each])));
    },
    (path) => done.push(path),
  );
  return { ...result, swept: swept.sort(), done: done.sort() };
}

const many = (count: number, signs: string[]) =>
  Array.from({ length: count }, (_, index) => pageOf(`/${String(index).padStart(3, '0')}`, signs));

describe('pages of one skeleton', () => {
  it('are swept once for all, and twice more to check', async () => {
    const pages = many(100, ['lead', 'card', 'card']);
    const { swept, sweeps, templates, done } = await sweepAll(pages, (_, signs) =>
      signs === 'lead' ? 900 : 300,
    );
    expect(swept).to.have.length(3);
    expect(sweeps).to.have.length(300);
    expect(sweeps.filter(({ like }) => like !== undefined)).to.have.length(291);
    for (const { placement, constant } of sweeps)
      expect(constant).to.equal(placement.endsWith('#1') ? 900 : 300);
    expect(templates).to.deep.equal([
      { pages: 100, swept: ['/000'], checked: ['/001', '/002'], agrees: true },
    ]);
    expect(done).to.have.length(100);
  });

  it('are swept as far as it takes to know all of their images', async () => {
    const pages = [...many(10, ['card']), pageOf('/wide', ['card', 'wide']), pageOf('/side', ['side'])];
    const { templates, sweeps } = await sweepAll(pages);
    expect(templates[0]?.swept).to.deep.equal(['/side', '/wide']);
    expect(sweeps).to.have.length(13);
  });

  it('are all swept where one that is checked is laid out otherwise', async () => {
    const pages = many(20, ['card']);
    const { swept, templates, sweeps } = await sweepAll(pages, (path) => (path === '/001' ? 280 : 300));
    expect(swept).to.have.length(20);
    expect(templates[0]?.agrees).to.equal(false);
    expect(sweeps.every(({ like }) => like === undefined)).to.equal(true);
  });

  it('are all swept where they are few, or have no skeleton', async () => {
    expect((await sweepAll(many(3, ['card']))).swept).to.have.length(3);
    const unknown = many(10, ['card']).map((page) => ({ ...page, skeleton: '' }));
    expect((await sweepAll(unknown)).swept).to.have.length(10);
  });

  it('do without one that cannot be swept', async () => {
    const pages = many(10, ['card']);
    const { sweeps, templates } = await sweepAll(pages, (path) => (path === '/000' ? undefined : 300));
    expect(sweeps).to.have.length(9);
    expect(templates[0]?.agrees).to.equal(true);
  });
});
