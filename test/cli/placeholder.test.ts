import { join } from 'node:path';
import { expect } from 'chai';
import sharp from 'sharp';
import { photo, removeSites, siteOf, yukkuri } from '../support/program.js';

interface Made {
  files: {
    name: string;
    why?: string;
    offer?: { colour: string; gradient: string; inlined: string | null };
  }[];
}

const flat = (colour: string) =>
  sharp({ create: { width: 200, height: 100, channels: 3, background: colour } })
    .png()
    .toBuffer();

describe('yukkuri placeholder', function () {
  this.timeout(60_000);
  after(removeSites);

  it('gives colour, gradient and a copy of at most 400 bytes that decodes', async () => {
    const folder = await siteOf({ 'a.png': await flat('#336699'), 'b.jpg': await photo(800, 600) });
    const { out, code } = await yukkuri([
      'placeholder',
      join(folder, 'a.png'),
      join(folder, 'b.jpg'),
      '--form',
      'json',
    ]);
    expect(code).to.equal(0);
    const [a, b] = (JSON.parse(out) as Made).files;
    // The main colour is taken from classes of 16 levels.
    const [red = 0, green = 0, blue = 0] = (a?.offer?.colour.match(/[0-9a-f]{2}/g) ?? []).map((level) =>
      parseInt(level, 16),
    );
    expect(red).to.be.closeTo(0x33, 16);
    expect(green).to.be.closeTo(0x66, 16);
    expect(blue).to.be.closeTo(0x99, 16);
    expect(a?.offer?.gradient).to.match(/^linear-gradient\(.*#336699, #336699, #336699\)$/);
    const inlined = b?.offer?.inlined ?? '';
    expect(inlined.length).to.be.within(50, 400);
    const tiny = await sharp(Buffer.from(inlined.slice(inlined.indexOf(',') + 1), 'base64')).metadata();
    expect((tiny.width ?? 0) / (tiny.height ?? 1)).to.be.closeTo(4 / 3, 0.2);
  });

  it('writes rules and attributes, and goes on without what is no picture', async () => {
    const folder = await siteOf({ 'A hut.png': await flat('#804020'), 'text.png': 'no picture' });
    const names = [join(folder, 'A hut.png'), join(folder, 'text.png')];
    const css = await yukkuri(['placeholder', ...names]);
    expect(css.code).to.equal(0);
    expect(css.out).to.contain('.awaiting-a-hut {');
    expect(css.err).to.match(/text\.png has no placeholder: the file is not an image/);
    const attribute = await yukkuri(['placeholder', ...names, '--form', 'attribute']);
    expect(attribute.out).to.match(/width="200" height="100" style="background: #[0-9a-f]{6}"/);
    expect((await yukkuri(['placeholder', join(folder, 'text.png')])).code).to.equal(3);
    expect((await yukkuri(['placeholder', names[0] ?? '', '--form', 'svg'])).code).to.equal(2);
  });
});
