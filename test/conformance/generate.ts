/** Makes image markup of every kind that the picking rules speak of, well-formed and broken, from a seed. */

export type Random = () => number;

export function seeded(seed: number): Random {
  let state = (Math.imul(seed, 0x9e3779b1) ^ 0x2545f491) | 1;
  return () => {
    state ^= state << 13;
    state ^= state >>> 17;
    state ^= state << 5;
    return (state >>> 0) / 4294967296;
  };
}

export interface Case {
  kind: string;
  html: string;
}

class Maker {
  constructor(
    readonly random: Random,
    readonly prefix: string,
  ) {}

  #url = 0;

  one<T>(list: readonly T[]): T {
    return list[Math.floor(this.random() * list.length)] as T;
  }

  chance(share: number): boolean {
    return this.random() < share;
  }

  whole(low: number, high: number): number {
    return low + Math.floor(this.random() * (high - low + 1));
  }

  many<T>(low: number, high: number, make: () => T): T[] {
    return Array.from({ length: this.whole(low, high) }, make);
  }

  url(): string {
    const base = `${this.prefix}/${++this.#url}`;
    return this.chance(0.9)
      ? `${base}.jpg`
      : base + this.one(['(a,b).jpg', ',x.jpg', '?a=1,2', '%20,.jpg', '(.jpg', ';,a', ')']);
  }

  space(): string {
    return this.one(['', ' ', ' ', ' ', '\n  ', '\t', '  ']);
  }

  number(): string {
    return this.one(['1', '2', '3', '1.5', '0.5', '.5', '2.0', '1e0', '10', '0', '2.625', '1.25', '3.0']);
  }

  goodWidth(): string {
    return `${this.one([100, 160, 200, 320, 375, 390, 400, 480, 500, 640, 750, 768, 800, 960, 1000, 1024, 1200, 1280, 1440, 1600, 1920, 2048, 2400, 3000, 3840])}w`;
  }

  oddDescriptor(): string {
    return this.one([
      '0w',
      '-1w',
      '1.5w',
      '+100w',
      '100W',
      '100',
      'w',
      'x',
      '-1x',
      '+1x',
      '1.x',
      '1e3x',
      '1E1x',
      '0x',
      '-0x',
      '1x 2x',
      '100w 2x',
      '100w 50h',
      '50h',
      '100w 100w',
      '2x 50h',
      '100w 0h',
      'foo',
      '100px',
      '2dppx',
      '(foo)',
      '100w (a, b)',
      '1x(',
      '1,5x',
      '00100w',
      'NaNx',
      'Infinityx',
      '1e-2x',
      '.x',
      '1..5x',
      '2X',
      '99999999999w',
      '4294967296w',
      '2147483648w',
      '1_000w',
      '१w',
      '1e400x',
      '0.0000001x',
    ]);
  }

  candidate(kind: 'w' | 'x' | 'odd'): string {
    const descriptor =
      kind === 'odd' && this.chance(0.5)
        ? this.oddDescriptor()
        : kind === 'x'
          ? this.chance(0.2)
            ? ''
            : `${this.number()}x`
          : this.goodWidth();
    return `${this.space()}${this.url()}${descriptor ? ` ${descriptor}` : ''}${this.space()}`;
  }

  srcset(kind: 'w' | 'x' | 'odd' | 'mixed'): string {
    const list = this.many(1, 6, () =>
      this.candidate(kind === 'mixed' ? this.one(['w', 'x', 'odd'] as const) : kind),
    );
    const text = list.join(this.chance(0.9) ? ',' : this.one([', ,', ',,', ' , ']));
    if (this.chance(0.03)) return '';
    return this.chance(0.05) ? `${this.one([',', ' ,', ',,,'])}${text}${this.one([',', ', ', ''])}` : text;
  }

  unit(): string {
    return this.one([
      'px',
      'px',
      'px',
      'vw',
      'vw',
      'vw',
      'em',
      'rem',
      'vh',
      'vmin',
      'vmax',
      'svw',
      'lvw',
      'dvw',
      'svh',
      'pt',
      'pc',
      'in',
      'cm',
      'mm',
      'q',
      'Q',
      'PX',
      'Vw',
      'vi',
      'vb',
    ]);
  }

  length(): string {
    const unit = this.unit();
    const value = /^(px|PX|pt|mm|q|Q)$/.test(unit)
      ? this.one(['0', '100', '320', '512', '800.5', '1200', '50', '1e2', '+400', '33.3'])
      : /v/i.test(unit)
        ? this.one(['100', '50', '33.3', '25', '90', '0', '10', '66.67'])
        : this.one(['1', '2', '10', '20', '30.5']);
    return value + unit;
  }

  math(depth = 0): string {
    const term = (): string =>
      depth < 3 && this.chance(0.25)
        ? this.chance(0.3)
          ? `(${this.sum(depth + 1)})`
          : this.math(depth + 1)
        : this.length();
    switch (this.one(['calc', 'calc', 'calc', 'min', 'max', 'clamp'])) {
      case 'min':
        return `min(${this.many(1, 3, term).join(', ')})`;
      case 'max':
        return `max(${this.many(1, 3, term).join(',')})`;
      case 'clamp':
        return `clamp(${term()}, ${term()}, ${term()})`;
      default:
        return `${this.one(['calc', 'calc', 'CALC', '-webkit-calc'])}(${this.sum(depth + 1)})`;
    }
  }

  sum(depth: number): string {
    const product = (): string => {
      const base = depth < 3 && this.chance(0.2) ? this.math(depth + 1) : this.length();
      return this.chance(0.3)
        ? this.one([`${base} * 2`, `${base} / 3`, `0.5 * ${base}`, `${base}*1.5`, `${base} / (1 + 1)`])
        : base;
    };
    return this.many(1, 3, product).join(this.one([' + ', ' - ', ' + ']));
  }

  oddSize(): string {
    return this.one([
      '-10px',
      'foo',
      '100',
      '50%',
      'calc(50%)',
      'calc(1px+2px)',
      'calc(100vw - )',
      'calc(2)',
      'calc(1px * 2px)',
      'min()',
      'clamp(1px, 2px)',
      '100vw 50vw',
      'var(--a)',
      '1px 2px',
      'round(10.5px, 1px)',
      'abs(-100px)',
      'calc(1px / 0)',
      'calc(-1 * 100px)',
      'calc(100vw - 5000px)',
      '10fr',
      '10deg',
      '1x',
      'auto',
      'calc(1px * (2 + 3))',
      '(100px)',
      '[100px]',
      '10 px',
      'calc((100vw - 20px) / 3',
      'min(100px, 5',
      'sqrt(4px)',
      'env(x)',
      'attr(width px)',
      '10cqw',
      'calc(10px + 2)',
      'max(10px, 2)',
      '1e400px',
      'calc(1e400px)',
      '0',
      '+0',
      '-0',
      '0.0',
      '"100px"',
      '#fff',
      'url(x)',
      '1ex',
      '1ch',
      '100px!',
      '2lh',
    ]);
  }

  feature(): string {
    const px = () =>
      `${this.one([320, 375, 390, 391, 600, 768, 819, 820, 844, 900, 1024, 1180, 1280, 1440, 1441, 1920])}px`;
    const value = () =>
      this.one([
        px,
        px,
        px,
        () => `${this.whole(10, 90)}em`,
        () => this.math(2),
        () => `${this.whole(5, 30)}in`,
        () => '0',
      ])();
    const name = this.one(['width', 'width', 'height', 'WIDTH']);
    const sign = () => this.one(['<', '<=', '>', '>=', '=']);
    switch (this.whole(0, 11)) {
      case 0:
      case 1:
      case 2:
        return `(${this.one(['min-', 'max-'])}${name}${this.one([':', ': ', ' : '])}${value()})`;
      case 3:
        return `(${name} ${sign()} ${value()})`;
      case 4:
        return `(${value()}${this.one([' ', ''])}${sign()}${this.one([' ', ''])}${name})`;
      case 5: {
        const way = this.one(['<', '>']);
        return `(${value()} ${way}${this.one(['', '='])} ${name} ${way}${this.one(['', '='])} ${value()})`;
      }
      case 6:
        return `(orientation: ${this.one(['portrait', 'landscape', 'square'])})`;
      case 7:
        return `(${this.one(['min-', 'max-', ''])}resolution: ${this.one(['1dppx', '2x', '1.5dppx', '192dpi', '3dppx', '96dpi', '40dpcm', '0x'])})`;
      case 8:
        return `(${this.one(['min-', 'max-', ''])}aspect-ratio: ${this.one(['1/1', '16/9', '3 / 4', '1', '0.5', '390/844', '2/0', '0/0'])})`;
      case 9:
        return this.one([
          '(hover)',
          '(hover: hover)',
          '(hover: none)',
          '(pointer: coarse)',
          '(pointer: fine)',
          '(any-hover)',
          '(any-pointer: fine)',
          '(pointer)',
          '(color)',
          '(monochrome)',
          '(grid: 0)',
          '(grid)',
          '(update: fast)',
          '(scripting: enabled)',
          '(prefers-color-scheme: dark)',
          '(prefers-color-scheme: light)',
          '(prefers-reduced-motion: reduce)',
          '(prefers-reduced-motion)',
          '(display-mode: browser)',
          '(color-gamut: srgb)',
          '(min-color: 8)',
          '(dynamic-range: standard)',
          '(forced-colors: none)',
          '(overflow-block: scroll)',
          '(width)',
          '(height)',
          '(resolution)',
          '(aspect-ratio)',
          '(orientation)',
          '(-webkit-min-device-pixel-ratio: 2)',
          '(-webkit-device-pixel-ratio)',
          '(color-index)',
          '(any-pointer: coarse)',
          '(prefers-contrast: no-preference)',
          '(inverted-colors: none)',
          '(device-width: 390px)',
          '(min-device-width: 500px)',
          '(device-aspect-ratio: 1/1)',
          '(overflow-inline: scroll)',
          '(min-monochrome: 0)',
          '(color-gamut: p3)',
          '(prefers-contrast)',
          '(video-dynamic-range: standard)',
          '(prefers-reduced-transparency: reduce)',
          '(min-grid: 0)',
          '(max-hover: hover)',
          '(min-orientation: portrait)',
        ]);
      case 10:
        return this.one([
          '(foo)',
          '(foo: bar)',
          'foo(bar)',
          '(min-width)',
          '(min-width: )',
          '(width: foo)',
          '(width 100px)',
          '()',
          '(100px < width > 50px)',
          '(max-width: 100)',
          '(min-width: -1px)',
          '(width > = 5px)',
          '(width: 1px 2px)',
          '(min-width: 600px',
          '(100px = width = 100px)',
          '(min-width < 600px)',
          '(600px)',
          '(width < height)',
          '(max-width: 50%)',
          '(min-width:600)',
          '(orientation > portrait)',
          '(width >= calc(1px * 2))',
          '[width]',
          '{a}',
          '((foo)',
          '(foo; bar)',
          '(foo!)',
          '(min-width: 600px;)',
          '(min-width: 1e3px)',
          '(min-aspect-ratio: 1.5)',
          '(resolution: infinite)',
        ]);
      default:
        return `(${this.condition(2)})`;
    }
  }

  condition(depth = 0): string {
    switch (depth > 2 ? 0 : this.whole(0, 6)) {
      case 1:
        return this.many(2, 3, () => this.feature()).join(
          this.one([' and ', ' AND ', ' and ', ' and', 'and ']),
        );
      case 2:
        return this.many(2, 3, () => this.feature()).join(' or ');
      case 3:
        return `${this.one(['not ', 'NOT ', 'not  ', 'not'])}${this.feature()}`;
      case 4:
        return this.one([
          `${this.feature()} and ${this.feature()} or ${this.feature()}`,
          `not ${this.feature()} and ${this.feature()}`,
          `(not ${this.feature()})`,
          `(${this.feature()} or ${this.feature()}) and ${this.feature()}`,
          `${this.feature()} and (not ${this.feature()})`,
          `${this.feature()} and not ${this.feature()}`,
          `not (not ${this.feature()})`,
        ]);
      default:
        return this.feature();
    }
  }

  sourceSize(): string {
    const size = this.chance(0.12) ? this.oddSize() : this.chance(0.35) ? this.math() : this.length();
    return this.chance(0.6) ? `${this.condition()}${this.one([' ', ' ', ' ', '', '\n'])}${size}` : size;
  }

  sizes(): string {
    const list = this.many(1, 4, () => this.sourceSize());
    if (this.chance(0.03))
      return this.one([
        '',
        ' ',
        ',',
        'auto',
        'auto, 50vw',
        'AUTO',
        ' auto',
        'auto 50vw',
        'auto(1)',
        '(min-width: 1px) auto, 300px',
        ', 50vw',
        '/* a */ 50vw',
        '/**/auto, 20vw',
        'screen 100px',
        '50vw,',
        '100px,,50px',
        '/**/',
        '(min-width: 1px) /* x */ 200px',
        'auto,',
        '50vw /**/',
      ]);
    return list.join(this.one([', ', ',', ' , ']));
  }

  mediaList(): string {
    const query = (): string => {
      switch (this.whole(0, 8)) {
        case 0:
          return this.one([
            'all',
            'screen',
            'print',
            'not all',
            'not print',
            'only screen',
            'speech',
            'not screen',
            'SCREEN',
            'foo',
            'not foo',
            'only',
            'and',
            'or',
            'not',
            '',
            'layer',
            'only (min-width: 1px)',
          ]);
        case 1:
          return `${this.one(['screen', 'all', 'not screen', 'only screen', 'print', 'not print'])} and ${this.feature()}`;
        case 2:
          return `screen and ${this.feature()} and ${this.feature()}`;
        case 3:
          return this.one([
            `screen and ${this.feature()} or ${this.feature()}`,
            `screen and not ${this.feature()}`,
            `screen, ${this.feature()}`,
            `not screen and ${this.feature()}`,
            `screen and(${this.feature()})`,
          ]);
        default:
          return this.condition();
      }
    };
    return this.many(1, 2, query).join(', ');
  }

  type(): string {
    return this.one([
      'image/webp',
      'image/avif',
      'image/jpeg',
      'image/png',
      'image/gif',
      'image/svg+xml',
      'image/jxl',
      'image/heic',
      'image/bmp',
      'IMAGE/WEBP',
      'image/webp; q=1',
      'image/foo',
      'text/html',
      '',
      ' image/webp ',
      'webp',
      'image/x-icon',
      'image/tiff',
      'image/jp2',
      'image/apng',
      'image/vnd.microsoft.icon',
      'image/jpg',
      'image/pjpeg',
      'image/x-png',
      'application/octet-stream',
      'image/x-xbitmap',
      'image/webp;',
      ';image/webp',
    ]);
  }
}

const escape = (value: string) => value.replaceAll('&', '&amp;').replaceAll('"', '&quot;');
const attribute = (name: string, value: string | undefined) =>
  value === undefined ? '' : ` ${name}="${escape(value)}"`;

/** One case; its URLs begin with the prefix. */
export function makeCase(random: Random, prefix: string): Case {
  const make = new Maker(random, prefix);
  const kind = make.one([
    'density',
    'width',
    'width',
    'sizes',
    'sizes',
    'sizes',
    'broken',
    'mixed',
    'picture',
    'picture',
    'picture',
    'media',
    'media',
    'auto',
    'src',
  ]);
  const src = make.chance(0.85) ? make.url() : make.one([undefined, '', ' ']);
  const img = (srcset?: string, sizes?: string, more = '') =>
    `<img${attribute('srcset', srcset)}${attribute('sizes', sizes)}${attribute('src', src)}${more}>`;
  switch (kind) {
    case 'density':
      return { kind, html: img(make.srcset('x')) };
    case 'width':
      return { kind, html: img(make.srcset('w'), make.chance(0.7) ? make.length() : undefined) };
    case 'sizes':
      return { kind, html: img(make.srcset('w'), make.sizes()) };
    case 'broken':
      return { kind, html: img(make.srcset('odd'), make.chance(0.5) ? make.sizes() : undefined) };
    case 'mixed':
      return { kind, html: img(make.srcset('mixed'), make.chance(0.5) ? make.sizes() : undefined) };
    case 'auto': {
      const sizes = make.one([
        'auto',
        'auto, 100vw',
        'AUTO',
        'auto, (min-width: 1px) 300px',
        'auto 50vw',
        '50vw, auto',
      ]);
      const lazy = make.chance(0.8) ? ` loading="${make.one(['lazy', 'LAZY', 'lazy', 'eager'])}"` : '';
      return {
        kind,
        html: img(
          make.srcset('w'),
          sizes,
          `${lazy} style="display:block;width:${make.one([100, 250, 333.3, 640, 1000])}px;height:10px"`,
        ),
      };
    }
    case 'media':
      return {
        kind,
        html: `<picture><source${attribute('media', make.mediaList())}${attribute('srcset', make.srcset(make.one(['w', 'x'] as const)))}${attribute('sizes', make.chance(0.5) ? make.sizes() : undefined)}>${img()}</picture>`,
      };
    case 'picture': {
      const sources = make.many(1, 3, () => {
        const set = make.chance(0.9)
          ? make.srcset(make.one(['w', 'x', 'mixed'] as const))
          : make.one([undefined, '', ',']);
        return `<source${attribute('media', make.chance(0.5) ? make.mediaList() : undefined)}${attribute('type', make.chance(0.5) ? make.type() : undefined)}${attribute('srcset', set)}${attribute('sizes', make.chance(0.6) ? make.sizes() : undefined)}>`;
      });
      const after = make.chance(0.1) ? `<source srcset="${make.url()}">` : '';
      return {
        kind,
        html: `<picture>${sources.join('')}${img(make.chance(0.5) ? make.srcset('w') : undefined, make.chance(0.5) ? make.sizes() : undefined)}${after}</picture>`,
      };
    }
    default:
      return { kind: 'src', html: img(make.one([undefined, '', ' ', ','])) };
  }
}

export function makeCases(count: number, seed: number): Case[] {
  const random = seeded(seed);
  return Array.from({ length: count }, (_, index) => makeCase(random, `c${index}`));
}
