import { expect } from 'chai';
import { auditRun, page, photo, removeSites, siteOf } from '../support/program.js';
import { mendedInPlace, mendScreens as screens } from '../support/mend-json.js';

const quick = ['--formats', 'none', '--encode', 'none'];
const style =
  'img{width:300px;height:200px}.wide{display:none}@media(min-width:700px){.wide{display:block}.narrow{display:none}}p{height:1500px}';
const twin = (name: string) =>
  `<div class="wide"><img src="${name}-wide.jpg" alt="${name} wide"></div><div class="narrow"><img src="${name}-narrow.jpg" alt="${name} narrow"></div>`;

describe('Of two images of which each screen shows one', function () {
  this.timeout(120_000);
  after(removeSites);

  async function twins() {
    const names = ['top', 'middle', 'last'];
    const sizes = [600, 610, 620, 630, 640, 650];
    const photos = await Promise.all(
      names.flatMap((name, index) =>
        ['wide', 'narrow'].map(
          async (kind, at) =>
            [`${name}-${kind}.jpg`, await photo(sizes[index * 2 + at] ?? 600, 400)] as const,
        ),
      ),
    );
    return siteOf({
      'index.html': page(`${twin('top')}<p>Text</p>${twin('middle')}${twin('last')}`, style),
      ...Object.fromEntries(photos),
    });
  }

  it('the hidden one is made lazy where none is in a first view, else one picture of both is written by hand', async () => {
    const run = await auditRun(await twins(), ...screens, ...quick);
    const fixes = run.fixes.filter(({ checks }) => checks.includes('fetched-never-shown'));
    const altsOf = (kind: string) =>
      fixes
        .filter((fix) => fix.kind === kind)
        .flatMap(({ places }) => places.map(({ placement }) => placement))
        .map((id) => run.placements.find((each) => each.id === id)?.alt)
        .sort();
    expect(altsOf('edit')).to.deep.equal(['last narrow', 'last wide', 'middle narrow', 'middle wide']);
    expect(altsOf('hand')).to.deep.equal(['top narrow', 'top wide']);
    // Each is told of its own twin, not of another one that takes turns with it.
    const examples = fixes.filter(({ kind }) => kind === 'hand').flatMap(({ notes }) => notes.slice(1));
    for (const example of examples) expect(example).to.match(/top-narrow.jpg.*top-wide.jpg/);
    expect(examples.length).to.be.greaterThan(0);
  });

  it('and what was hidden is fetched no more', async () => {
    const { copy, mended } = await mendedInPlace(await twins(), ...quick);
    expect(mended.match(/loading="lazy"/g)).to.have.lengthOf(4);
    const run = await auditRun(copy, ...screens, ...quick);
    for (const { screen, downloads } of run.pages[0]?.visits ?? []) {
      const hidden = screen === 'desk' ? /(middle|last)-narrow/ : /(middle|last)-wide/;
      expect(downloads.filter(({ url }) => hidden.test(url))).to.deep.equal([]);
    }
  });
});
