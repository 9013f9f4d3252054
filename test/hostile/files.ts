import { execFileSync } from 'node:child_process';
import { mkdir, symlink, writeFile } from 'node:fs/promises';
import { dirname, join } from 'node:path';
import { crc32, deflateSync } from 'node:zlib';
import sharp from 'sharp';
import { page, photo } from '../support/program.js';

/** A file that makes trouble, shown by a page of its own beside a sound image. */
export interface HostileFile {
  /** Files to write, from the folder's root; the first is what the page shows. */
  files: Record<string, string | Buffer>;
  /** What the page writes for it; an `img` with the first file's address if left out. */
  html?: string;
  /** Takes long, so it runs in `npm run hostile` only. */
  long?: boolean;
  /** What the findings and notes of its page say. */
  says?: RegExp;
}

const address = (file: string) => `/${file.split('/').map(encodeURIComponent).join('/')}`;
const showing = (file: string) => `<img src="${address(file)}" width="200" height="150" alt="A hut">`;

/** A PNG chunk. PNG specification, section 5.3. */
function chunk(type: string, data: Buffer): Buffer {
  const body = Buffer.concat([Buffer.from(type, 'latin1'), data]);
  const [length, sum] = [Buffer.alloc(4), Buffer.alloc(4)];
  length.writeUInt32BE(data.length);
  sum.writeUInt32BE(crc32(body));
  return Buffer.concat([length, body, sum]);
}

/** A PNG of one bit a pixel that is all black: it weighs next to nothing, whatever its size. */
function blackPng(width: number, height: number, pixels = true): Buffer {
  const header = Buffer.alloc(13);
  header.writeUInt32BE(width);
  header.writeUInt32BE(height, 4);
  header[8] = 1;
  const rows = pixels ? Buffer.alloc((Math.ceil(width / 8) + 1) * height) : Buffer.alloc(10);
  return Buffer.concat([
    Buffer.from([137, 80, 78, 71, 13, 10, 26, 10]),
    chunk('IHDR', header),
    chunk('IDAT', deflateSync(rows)),
    chunk('IEND', Buffer.alloc(0)),
  ]);
}

const half = (content: Buffer) => content.subarray(0, content.length >> 1);
const svg = (inner: string, head = '') =>
  `${head}<svg xmlns="http://www.w3.org/2000/svg" xmlns:xlink="http://www.w3.org/1999/xlink" width="200" height="150">${inner}</svg>`;
const laughs =
  '<!DOCTYPE svg [<!ENTITY a "hahahahaha">' +
  'bcdefghij'
    .split('')
    .map((name, index) => `<!ENTITY ${name} "${`&${'abcdefghij'[index]};`.repeat(10)}">`)
    .join('') +
  ']>';

/** Files of every kind, by a name for each. */
export async function hostileFiles(): Promise<Record<string, HostileFile>> {
  const sound = await photo(600, 400);
  const flat = sharp({ create: { width: 300, height: 200, channels: 3, background: '#48a' } });
  const cut = (format: 'png' | 'webp' | 'avif' | 'gif') =>
    sharp(sound).toFormat(format).toBuffer().then(half);
  const one = (name: string, content: string | Buffer, says?: RegExp): HostileFile => ({
    files: { [name]: content },
    ...(says ? { says } : {}),
  });
  return {
    'cut-jpeg': one('cut.jpg', half(sound), /cut short|bytes are missing|does not (load|decode)/i),
    'cut-png': one('cut.png', await cut('png'), /cut short|missing|does not/i),
    'cut-webp': one('cut.webp', await cut('webp'), /cut short|missing|does not/i),
    'cut-avif': one('cut.avif', await cut('avif'), /cut short|missing|does not/i),
    'cut-gif': one('cut.gif', await cut('gif'), /cut short|missing|does not/i),
    'cut-below-the-fold': {
      files: { 'below.jpg': half(await photo(900, 600)) },
      html: `<div style="height:3000px"></div>${showing('below.jpg')}<img src="/sound.jpg?2" loading="lazy" alt="x">`,
      says: /cut short|missing/i,
    },
    empty: one('empty.jpg', Buffer.alloc(0), /the file is empty/),
    'text-as-picture': one('text.jpg', 'Just text', /does not load/),
    'page-as-picture': one('page.png', '<!doctype html><p>Not found', /HTML page/),
    'png-as-jpg': one('really-png.jpg', await flat.clone().png().toBuffer(), /PNG/i),
    'svg-as-png': one('really-svg.png', svg('<rect width="9" height="9"/>')),
    noise: one(
      'noise.webp',
      Buffer.from(Array.from({ length: 5000 }, (_, index) => (index * 7919) % 251)),
      /does not load/,
    ),
    'many-pixels': one('many.png', blackPng(9000, 7000)),
    'too-many-pixels': one('too-many.png', blackPng(65_500, 65_500, false), /megapixels|does not|cut short/i),
    'one-pixel-high': one('line.png', blackPng(20_000, 1)),
    'one-pixel': one('dot.png', blackPng(1, 1)),
    'most-pixels': { ...one('most.png', blackPng(20_000, 12_000)), long: true },
    cmyk: one('ink.jpg', await flat.clone().toColourspace('cmyk').jpeg().toBuffer()),
    'sixteen-bits': one('deep.png', await flat.clone().toColourspace('rgb16').png().toBuffer()),
    'broken-exif': one(
      'exif.jpg',
      Buffer.concat([
        sound.subarray(0, 2),
        Buffer.from([0xff, 0xe1, 0x00, 0x10]),
        Buffer.from('Exif\0\0MM\0*\xff\xff\xff\xff'.slice(0, 14), 'latin1'),
        sound.subarray(2),
      ]),
    ),
    'a-megabyte-of-notes': one(
      'notes.jpg',
      await sharp(sound)
        .withExif({ IFD0: { ImageDescription: 'x'.repeat(60_000) } })
        .jpeg()
        .toBuffer(),
    ),
    'laughing-svg': one('laugh.svg', svg('<text y="20">&j;</text>', laughs), /.*/),
    'svg-with-script': one('script.svg', svg('<script>for(;;){}</script><rect width="90" height="90"/>')),
    'svg-that-asks': one(
      'asks.svg',
      svg(
        '<image xlink:href="http://127.0.0.1:9/x.png" width="9" height="9"/><style>@import url(http://127.0.0.1:9/x.css)</style>',
      ),
    ),
    'svg-in-itself': one(
      'itself.svg',
      svg('<g id="a"><use href="#a"/><use xlink:href="/itself.svg#a"/></g>'),
    ),
    'svg-of-nesting': one(
      'nested.svg',
      svg(`${'<g>'.repeat(5000)}<rect width="9" height="9"/>${'</g>'.repeat(5000)}`),
      /.*/,
    ),
    'svg-cut': one('cut.svg', svg('<rect width="9"').slice(0, 140), /.*/),
    'spaces and (signs) \'"': one('a b (c) \'d\' "e".jpg', sound),
    'percent-100%25': one('100%25 %zz.jpg', sound),
    'question-and-hash': one('what?#1.jpg', sound),
    composed: one('hu\u0308tte.jpg'.normalize('NFC'), sound),
    decomposed: one('mu\u0308hle.jpg'.normalize('NFD'), sound),
    newline: one('line\nbreak.jpg', sound),
    backslash: one('back\\slash.jpg', sound),
    'long-name': one(`${'n'.repeat(250)}.jpg`, sound),
    'deep-folder': one(`${'d/'.repeat(60)}deep.jpg`, sound),
    dashes: one('--help.jpg', sound),
    prototype: one('__proto__/constructor.jpg', sound),
    capitals: one('SOUND.JPG', sound),
    'no-ending': one('no-ending', sound),
    bidi: one('hut\u202egnp.jpg', sound),
  };
}

/** Pages in other encodings than UTF-8, whose address names a picture beyond ASCII. */
export const encodedPages: Record<string, Buffer> = {
  'utf-16.html': Buffer.from(
    `\ufeff${page('<img src="/h\u00fctte.jpg" width="300" height="200" alt="H\u00fctte">').replace('<meta charset="utf-8">', '')}`,
    'utf16le',
  ),
  'latin-1.html': Buffer.from(
    page('<p>caf\u00e9</p><img src="/sound.jpg" width="300" height="200" alt="H\u00fctte">').replace(
      'utf-8',
      'iso-8859-1',
    ),
    'latin1',
  ),
  'broken-utf-8.html': Buffer.concat([
    Buffer.from(page('<img src="/sound.jpg" width="300" height="200" alt="x">')),
    Buffer.from([0xff, 0xfe, 0xc3]),
  ]),
};

/** Links, pipes and folders that stand where files are looked for. */
export async function makeStrangeEntries(folder: string): Promise<void> {
  await mkdir(join(folder, 'real'), { recursive: true });
  await writeFile(
    join(folder, 'real', 'index.html'),
    page('<img src="/sound.jpg" width="300" height="200" alt="A hut">'),
  );
  await symlink('real', join(folder, 'another'));
  await symlink('..', join(folder, 'real', 'up'));
  await symlink('itself', join(folder, 'itself'));
  await symlink('/etc/hostname', join(folder, 'outside.html'));
  await symlink('/etc', join(folder, 'outside'));
  await symlink('nowhere', join(folder, 'dangling.jpg'));
  await mkdir(join(folder, 'folder.html'));
  await mkdir(join(folder, 'folder.jpg'));
  execFileSync('mkfifo', [join(folder, 'pipe.jpg'), join(folder, 'pipe.html')]);
  await writeFile(
    join(folder, 'strange.html'),
    page(
      '<img src="/sound.jpg" width="300" height="200" alt="A hut"><img src="/pipe.jpg" alt="x"><img src="/folder.jpg" alt="x"><img src="/dangling.jpg" alt="x"><img src="/outside/hostname" alt="x"><img src="/another/up/sound.jpg" alt="x">',
    ),
  );
}

/** Writes the files of each kind with a page that shows them. */
export async function writeHostileFiles(
  folder: string,
  kinds: Record<string, HostileFile>,
): Promise<Map<string, HostileFile>> {
  const pages = new Map<string, HostileFile>();
  let count = 0;
  for (const [kind, hostile] of Object.entries(kinds)) {
    for (const [name, content] of Object.entries(hostile.files)) {
      await mkdir(dirname(join(folder, name)), { recursive: true });
      await writeFile(join(folder, name), content);
    }
    const [first = ''] = Object.keys(hostile.files);
    const file = `file-${String(++count).padStart(2, '0')}-${kind.replace(/[^a-z0-9-]+/g, '-')}.html`;
    await writeFile(
      join(folder, file),
      page(`<img src="/sound.jpg" width="300" height="200" alt="A hut">${hostile.html ?? showing(first)}`),
    );
    pages.set(`/${file}`, hostile);
  }
  return pages;
}
