import { join } from 'node:path';
import { expect } from 'chai';
import { removeSites, siteOf } from '../support/program.js';
import { mendJson } from '../support/mend-json.js';
import { hashedBuild, shop } from '../support/templates/index.js';

describe('sites that others would build', function () {
  this.timeout(600_000);
  after(removeSites);

  /** A page of each; `npm run real` mends all of them, of several seeds, and a magazine with its large covers. */
  const sites = [
    { name: 'shop', make: shop, chosen: /./, most: 1 },
    { name: 'hashed build', make: hashedBuild, chosen: /./, most: 1 },
  ] as const;

  for (const { name, make, chosen, most } of sites)
    it(`keep every promise once they are mended: ${name}`, async () => {
      const files = await make(1);
      const folder = await siteOf(files);
      const pages = Object.keys(files)
        .filter((path) => path.endsWith('.html') && chosen.test(path))
        .sort()
        .slice(0, most)
        .flatMap((path) => ['--page', `/${path}`]);
      const copy = join(await siteOf({}), 'copy');
      const { out, code, err } = await mendJson(folder, '--to', copy, ...pages);
      const broken = Object.entries(out.proof?.fixes ?? {}).filter(([, { kept }]) => !kept);
      expect(broken).to.deep.equal([]);
      expect(out.proof?.layout.changes, 'boxes').to.deep.equal([]);
      expect(out.proof?.layout.problems, 'pages').to.deep.equal([]);
      expect(out.proof?.lost, 'images').to.deep.equal([]);
      for (const { promised, kept } of Object.values(out.proof?.screens ?? {})) {
        expect(promised).to.be.above(20_000);
        expect(kept).to.equal(true);
      }
      expect(out.proof?.findings.stayed).to.equal(0);
      expect([code, err.includes('rror')]).to.deep.equal([0, false]);
    });
});
