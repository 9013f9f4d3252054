import { expect } from 'chai';
import { guessHosts } from '../../../src/core/plan/host-guess.js';
import { ImageHost, ImageHosts } from '../../../src/core/plan/image-host.js';
import { someFile } from '../../support/facts.js';

describe('an image host', () => {
  const cases: [template: string, address: string, wish: object, written: string][] = [
    [
      'https://img.invalid/{+path}?w={width}&q={quality}',
      'https://img.invalid/a/b.jpg?w=800',
      { width: 400 },
      'https://img.invalid/a/b.jpg?w=400',
    ],
    [
      'https://img.invalid/{+path}?w={width}&q={quality}',
      'https://img.invalid/a/b.jpg?fit=crop&w=800',
      { width: 400, quality: 61 },
      'https://img.invalid/a/b.jpg?fit=crop&w=400&q=61',
    ],
    [
      'https://img.invalid/{+path}{?width,format,quality}',
      'https://img.invalid/b.jpg',
      { width: 400, format: 'avif' },
      'https://img.invalid/b.jpg?width=400&format=avif',
    ],
    [
      'https://img.invalid/{+path}?f={format}&w={width}&h={height}',
      'https://img.invalid/b.jpg?w=800&h=600&f=auto',
      { width: 401 },
      'https://img.invalid/b.jpg?w=401&h=301&f=auto',
    ],
    [
      '/_image/{width}x{height}/{+path}',
      '/_image/800x600/p/a%20b.png',
      { width: 400 },
      '/_image/400x300/p/a%20b.png',
    ],
    [
      'https://img.invalid/w_{width},q_{quality}{/path*}',
      'https://img.invalid/w_1200,q_80/x/y/z.jpg',
      { width: 640, quality: 59 },
      'https://img.invalid/w_640,q_59/x/y/z.jpg',
    ],
    [
      '/resize/{path}/{width}.{format}',
      '/resize/hut/900.jpg',
      { width: 300, format: 'webp' },
      '/resize/hut/300.webp',
    ],
    [
      '/img?src={path}&w={width}',
      '/img?src=%2Fa%2Fb.jpg&w=900',
      { width: 300 },
      '/img?src=%2Fa%2Fb.jpg&w=300',
    ],
  ];
  for (const [template, address, wish, written] of cases)
    it(`writes ${written} by ${template}`, () => {
      const host = new ImageHost(template);
      expect(host.write(address, wish as { width: number })).to.equal(written);
      // What it writes it reads again, and writing what is there changes nothing.
      const read = host.read(written);
      expect(read?.width).to.equal(String((wish as { width: number }).width));
      expect(host.write(written, { width: Number(read?.width) })).to.equal(written);
    });

  it('knows addresses of others apart', () => {
    const host = new ImageHost('https://img.invalid/w_{width}/{+path}');
    for (const address of [
      'https://other.invalid/w_80/a.jpg',
      'https://img.invalid/w_auto/a.jpg',
      'https://img.invalid/a.jpg',
      '/w_80/a.jpg',
      '',
    ])
      expect(host.read(address), address).to.equal(undefined);
    expect(new ImageHosts([host]).address('/pictures/a.jpg', { width: 3 })).to.equal(undefined);
  });

  it('refuses templates that say too little, or something else', () => {
    for (const [template, told] of [
      ['https://img.invalid/{+path}', /must have the variable \{width\}/],
      ['https://img.invalid/?w={width}', /must have the variable \{path\}/],
      ['img.invalid/{+path}?w={width}', /must begin with/],
      ['https://img.invalid/{+path}?w={width}&c={colour}', /knows no variable \{colour\}/],
      ['https://img.invalid/{;path}/{width}', /knows no variable/],
    ] as const)
      expect(() => new ImageHost(template), template).to.throw(RangeError, told);
  });

  it('leaves the choice of format to a host that was asked for that', () => {
    const hosts = new ImageHosts([new ImageHost('/i/{+path}?w={width}&f={format}')]);
    expect([hosts.choosesFormat('/i/a.jpg?w=9'), hosts.choosesFormat('/i/a.jpg?w=9&f=auto')]).to.deep.equal([
      true,
      false,
    ]);
  });

  it('is guessed where addresses differ only in a number that is the width of what they give', () => {
    const files = new Map(
      [
        ['/i/a.jpg?w=400', 400],
        ['/i/a.jpg?w=800', 800],
        ['https://c.invalid/w_300/b.jpg', 300],
        ['https://c.invalid/w_600/b.jpg', 600],
        ['/d-400.jpg', 400],
        ['/d-800.jpg', 800],
        ['/e.jpg?w=400', 400],
        ['/f.jpg?v=12', 1200],
        ['/f.jpg?v=13', 1300],
      ].map(([url, width]) => [String(url), someFile({ url: String(url), width: Number(width) })]),
    );
    const pictures = [
      ['/i/a.jpg?w=400', '/i/a.jpg?w=800'],
      ['https://c.invalid/w_300/b.jpg', 'https://c.invalid/w_600/b.jpg'],
      ['/d-400.jpg', '/d-800.jpg'],
      ['/e.jpg?w=400'],
      ['/f.jpg?v=12', '/f.jpg?v=13'],
    ];
    expect(guessHosts(pictures, files, undefined)).to.deep.equal([
      { template: '/{+path}?w={width}', pictures: 1 },
      { template: 'https://c.invalid/w_{width}/{+path}', pictures: 1 },
    ]);
    const known = new ImageHosts([new ImageHost('/{+path}?w={width}')]);
    expect(guessHosts(pictures.slice(0, 1), files, known)).to.deep.equal([]);
  });
});
