import { expect } from 'chai';
import { checks } from '../../../src/core/checks/index.js';
import { factsOf } from '../../../src/core/judging/facts.js';
import { writeFixes } from '../../../src/core/judging/fixes.js';
import { judge } from '../../../src/core/judging/judge.js';
import type { ImageAnswer } from '../../../src/core/run/index.js';
import { drawnWorld } from '../../support/drawn-site.js';
import { headerCases } from '../../support/header-cases.js';

/** As it should be. */
const sound = (url: string): ImageAnswer => ({
  url,
  type: url.endsWith('.svg') ? 'image/svg+xml' : 'image/jpeg',
  wireBytes: 50_000,
  bytes: 50_000,
  coding: '',
  protocol: 'h2',
  cacheControl: 'max-age=31536000',
  expiresIn: null,
  unchangedFor: null,
  etag: null,
  age: 0,
  vary: null,
  redirects: [],
  packed: null,
  negotiated: null,
});

describe('checks of what servers say', () => {
  for (const [id, { told, neighbour, url = '/a.jpg', file = {} }] of Object.entries(headerCases))
    it(`${id} is found where it is so, and nowhere else`, () => {
      const world = drawnWorld({
        files: { [url]: [400, 300, 50_000, file] },
        images: [{ markup: `<img src="${url}" width="400" height="300" alt="">`, slot: [400, 300] }],
      });
      const found = (answer: Partial<ImageAnswer>, connects: string[] = []) => {
        const pages = world.pages.map((page) => ({ ...page, connects }));
        const answers = new Map([[url, { ...sound(url), ...answer }]]);
        const check = checks.find((each) => each.id === id);
        return check?.examine(factsOf({ ...world, pages, answers })).length;
      };
      expect(found(told)).to.equal(1);
      expect(found(neighbour, ['https://pictures.invalid'])).to.equal(0);
      // Nothing is said where nothing is known.
      const check = checks.find((each) => each.id === id);
      expect(check?.examine(factsOf(world))).to.deep.equal([]);
    });

  it('are told once, with the number of images that they are about', () => {
    const urls = ['/a.jpg', '/b.jpg', '/c.jpg'];
    const world = drawnWorld({
      files: Object.fromEntries(urls.map((url) => [url, [400, 300, 50_000] as const])),
      images: urls.map((url) => ({
        markup: `<img src="${url}" width="400" height="300" alt="">`,
        slot: [400, 300] as [number, number],
      })),
    });
    const answersFor = (cacheControls: readonly string[]) =>
      new Map(
        urls.map((url, index) => [
          url,
          { ...sound(url), cacheControl: cacheControls[index] ?? 'max-age=60' },
        ]),
      );
    const titlesFor = (...cacheControls: string[]) =>
      writeFixes(judge(checks, { ...world, answers: answersFor(cacheControls) }))
        .fixes.filter(({ checks: own }) => own.includes('short-cache-life'))
        .map(({ title }) => title);
    expect(titlesFor()).to.deep.equal(['Let browsers keep images longer: 3 images of the site']);
    const long = 'max-age=31536000';
    expect(titlesFor(long, 'max-age=60', long)).to.deep.equal([
      'Let browsers keep images longer: 1 image on /',
    ]);
  });
});
