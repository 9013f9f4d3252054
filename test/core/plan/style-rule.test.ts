import { expect } from 'chai';
import { environmentOf } from '../../../src/core/markup/index.js';
import type { PlannedFile } from '../../../src/core/plan/file-book.js';
import type { SourceState } from '../../../src/core/plan/image-state.js';
import { pickStyle, styleAddresses, writeStyle } from '../../../src/core/plan/style-rule.js';

const desk = environmentOf({ width: 1000, height: 800, density: 1, touch: false });

const sourceOf = (url: string, type: string | null = null): SourceState => {
  const file: PlannedFile = {
    id: url,
    url,
    master: url,
    recipe: 'as-is',
    format: 'jpeg',
    width: 100,
    height: 50,
    bytes: 1000,
    error: 0,
    quality: null,
    animated: false,
  };
  const rung = { file, descriptor: { density: 1 }, inSrc: false };
  return { origin: 0, media: null, type, rungs: [rung], sizes: null, changed: true };
};

const place = { property: 'background-image', layer: 0, base: '/index.html' };
const written = (text: string, ...sources: SourceState[]) =>
  writeStyle(text, place, sources, ({ url }) => url);

describe('an image of a style', () => {
  const rule = '.hut { background: url("old.jpg") center }';
  const attribute = `style="background: url('old.jpg') center"`;

  it('is written without quotes where its address needs none', () => {
    expect(written(rule, sourceOf('/new%20hut.jpg'))).to.equal(
      '.hut { background: url(/new%20hut.jpg) center }',
    );
    expect(written(attribute, sourceOf('/new.jpg'))).to.equal('style="background: url(/new.jpg) center"');
  });

  it('is written with them where its name has parentheses or apostrophes, which addresses have as they are', () => {
    expect(written(rule, sourceOf('/hut%20(1).jpg'))).to.equal(
      '.hut { background: url("/hut%20(1).jpg") center }',
    );
    expect(written(attribute, sourceOf('/hut%20(1).jpg'))).to.equal(
      `style="background: url('/hut%20(1).jpg') center"`,
    );
    expect(written(attribute, sourceOf("/o'hut.jpg"))).to.equal(
      `style="background: url('/o\\'hut.jpg') center"`,
    );
  });

  for (const address of ['/hut.jpg', '/hut%20(1).jpg', "/the%20warden's.jpg", "/it's%20(2)%20'old'.jpg"])
    it(`is read as it was written: ${address}`, () => {
      for (const text of [rule, attribute]) {
        expect(styleAddresses(written(text, sourceOf(address)), place)).to.deep.equal([address]);
        const set = written(text, sourceOf(`${address}.avif`, 'image/avif'), sourceOf(address));
        expect(styleAddresses(set, place)).to.deep.equal([`${address}.avif`, address]);
        expect(pickStyle(set, place, desk)?.url).to.equal(`${address}.avif`);
      }
    });
});
