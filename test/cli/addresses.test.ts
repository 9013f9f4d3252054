import { readdir, readFile } from 'node:fs/promises';
import { join } from 'node:path';
import { gzipSync } from 'node:zlib';
import { expect } from 'chai';
import sharp from 'sharp';
import { readRun, type Run } from '../../src/core/run/index.js';
import { filesAt, serverThat, type TestServer } from '../support/odd-server.js';
import { auditRun, findingsOf, page, photo, removeSites, siteOf, yukkuri } from '../support/program.js';

const desk = ['--screen', 'desk=1000x800@1', '--encode', 'none'];
const link = (...paths: string[]) => paths.map((path) => `<a href="${path}">x</a>`).join('');

describe('a site at an address', function () {
  this.timeout(300_000);
  const servers: TestServer[] = [];
  const serve = async (...args: Parameters<typeof serverThat>) => {
    const server = await serverThat(...args);
    servers.push(server);
    return server;
  };
  afterEach(() => Promise.all(servers.splice(0).map((server) => server.close())));
  after(removeSites);

  /** Without what a server adds, and without bytes of text, which each server packs in its own way. */
  const without = ({ meta: _, site: __, answers: ___, again: ____, ...run }: Run): unknown =>
    JSON.parse(JSON.stringify(run, (key, value: unknown) => (key === 'allBytes' ? undefined : value)));
  const header = '<link rel="icon" href="data:,">';

  it('gives what the same folder gives, with each address asked once', async () => {
    const picture = await photo(900, 600);
    const files: Record<string, string | Buffer> = {
      '/': page(
        `${header}<img src="a.jpg" width="300" height="200" alt="">${link('/second.html', 'https://elsewhere.invalid/')}`,
      ),
      '/second.html': page(
        `${header}<div class="band"></div><p style="height:3000px"></p><img src="/b.jpg" loading="lazy" alt="b">`,
        '.band{height:100px;background:url(/a.jpg)}',
      ),
      '/a.jpg': picture,
      '/b.jpg': await photo(500, 400),
    };
    const day = { 'Cache-Control': 'max-age=86400' };
    const server = await serve(filesAt(files, () => day));
    const folder = await siteOf({
      'index.html': files['/'] ?? '',
      'second.html': files['/second.html'] ?? '',
      'a.jpg': picture,
      'b.jpg': files['/b.jpg'] ?? '',
    });
    const live = await auditRun(`${server.origin}/`, '--follow', '--fresh', ...desk);
    expect(without(live)).to.deep.equal(without(await auditRun(folder, ...desk)));
    expect(live.site).to.include({ kind: 'live', name: server.origin.slice('http://'.length) });
    const paths = server.asked.map(({ path }) => path).sort();
    expect(paths).to.deep.equal(['/', '/a.jpg', '/b.jpg', '/robots.txt', '/second.html']);
  });

  it('is mended into the pages and files that change, and the proof is held against the server itself', async () => {
    const server = await serve(
      filesAt(
        {
          '/': page(`${header}<img src="a.jpg" width="400" height="267" alt="">${link('/other.html')}`),
          '/other.html': page(`${header}<p>nothing`),
          '/a.jpg': await photo(2400, 1600, 92),
        },
        () => ({ 'Cache-Control': 'max-age=86400' }),
      ),
    );
    const copy = join(await siteOf({}), 'copy');
    const { out, code, err } = await yukkuri([
      ...['mend', `${server.origin}/`, '--follow', '--to', copy, '--json', '--patch', `${copy}.patch`],
      ...['--screen', 'desk=1000x800@1'],
    ]);
    const { proof } = JSON.parse(out) as { proof: { kept: boolean; average: { promised: number } } };
    expect([code, proof.kept], err).to.deep.equal([0, true]);
    expect(proof.average.promised).to.be.above(100_000);
    const made = (await readdir(copy)).sort();
    expect(made).to.include('index.html');
    expect(made).not.to.include('other.html');
    expect(made.filter((name) => /^a-\d+\.(jpg|avif|webp)$/.test(name))).not.to.deep.equal([]);
    expect(await readFile(`${copy}.patch`, 'utf8')).to.match(/^--- a\/index\.html/);
  });

  it('has the pages of its sitemap: of an index, packed, without what is of others', async () => {
    const origin = { is: '' };
    const server = await serve((request, response, path) => {
      const list = (...paths: string[]) =>
        `<?xml version="1.0"?><urlset xmlns="http://www.sitemaps.org/schemas/sitemap/0.9">${paths.map((each) => `<url><loc>${each}</loc></url>`).join('')}</urlset>`;
      const files: Record<string, string | Buffer> = {
        '/map.xml': `<sitemapindex><sitemap><loc>${origin.is}/one.xml.gz</loc></sitemap><sitemap><loc>${origin.is}/two.xml</loc></sitemap><sitemap><loc>${origin.is}/broken.xml</loc></sitemap></sitemapindex>`,
        '/one.xml.gz': gzipSync(
          list(`${origin.is}/b.html?utm_source=x`, `${origin.is}/b.html`, 'https://other.invalid/c'),
        ),
        '/two.xml': list(
          `${origin.is}/archive/old.html`,
          `${origin.is}/a.html#part`,
          `${origin.is}/gone.html`,
        ),
        '/broken.xml': '<!DOCTYPE x [<!ENTITY e "boom">]><urlset><url><loc>&e;</loc></url></urlset>',
        '/a.html': page(`${header}<p>a`),
        '/b.html': page(`${header}<p>b`),
      };
      filesAt(files)(request, response, path);
    });
    origin.is = server.origin;
    const run = await auditRun(
      server.origin,
      '--sitemap',
      `${server.origin}/map.xml`,
      '--skip',
      '/archive/**',
      ...desk,
    );
    expect(run.pages.map(({ path }) => path)).to.deep.equal(['/a.html', '/b.html']);
    const told = run.incomplete.map(({ page: path, why }) => `${path} ${why}`).join('\n');
    expect(told).to.match(/\/gone\.html it answers with 404 and is not judged/);
    expect(told).to.match(/1 addresses? of the sitemap (is|are) not of/);
    expect(told).to.match(/broken\.xml this part of the sitemap is not well-formed XML/);
    const list = join(await siteOf({ 'pages.txt': `${server.origin}/a.html\n` }), 'pages.txt');
    const listed = await auditRun(server.origin, '--sitemap', list, ...desk);
    expect(listed.pages.map(({ path }) => path)).to.deep.equal(['/a.html']);
  });

  it('is followed as it asks for: robots.txt, nofollow, one page under one address', async () => {
    const files = {
      '/docs/': page(
        `${header}${link('a.html', 'a.html?utm_medium=mail', 'a.html#b', '/docs/private/x.html', '/outside.html', 'c.html', 'picture.jpg', 'mailto:a@b.invalid', 'moved', 'away')}<a rel="nofollow" href="d.html">d</a>`,
      ),
      '/docs/a.html': page(`${header}<p>a`),
      '/docs/c.html': page(`<link rel="canonical" href="/docs/a.html">${header}<p>c`),
      '/docs/d.html': page(`${header}<p>d`),
      '/docs/private/x.html': page(`${header}<p>x`),
      '/robots.txt': 'User-agent: *\nDisallow: /docs/private/\n',
    };
    const server = await serve((request, response, path) => {
      const to = { '/docs/moved': '/docs/a.html', '/docs/away': 'https://elsewhere.invalid/' }[path];
      if (to === undefined) filesAt(files)(request, response, path);
      else response.writeHead(302, { Location: to }).end();
    });
    const run = await auditRun(`${server.origin}/docs/`, '--follow', ...desk);
    expect(run.pages.map(({ path }) => path)).to.deep.equal(['/docs/', '/docs/a.html']);
    expect(run.redirected).to.deep.equal([
      { page: '/docs/moved', to: '/docs/a.html' },
      { page: '/docs/c.html', to: '/docs/a.html' },
    ]);
    const told = run.incomplete.map(({ why }) => why).join('\n');
    expect(told).to.match(/1 addresses? (is|are) not followed: robots\.txt/);
    expect(told).to.match(/leads to https:\/\/elsewhere\.invalid\/, which is of another site/);
    expect(server.asked.map(({ path }) => path)).not.to.include('/outside.html');
    const all = await auditRun(`${server.origin}/docs/`, '--follow', '--ignore-robots', ...desk);
    expect(all.pages.map(({ path }) => path)).to.deep.equal([
      '/docs/',
      '/docs/a.html',
      '/docs/d.html',
      '/docs/private/x.html',
    ]);
    const near = await auditRun(`${server.origin}/docs/`, '--follow', '--most-pages', '1', ...desk);
    expect(near.pages).to.have.length(1);
    expect(near.incomplete.map(({ why }) => why).join()).to.match(/not asked: --most-pages is 1/);
  });

  it('is opened with headers, cookies and a password, and none of them is written anywhere', async () => {
    const server = await serve((request, response, path) => {
      const { cookie = '', authorization = '', 'x-gate': gate } = request.headers;
      const open =
        gate === 'secret-gate' && /preview=secret-cookie/.test(cookie) && /^Basic /.test(authorization);
      if (open)
        filesAt({
          '/': page(`${header}<img src="/a.svg" width="10" height="10" alt="">`),
          '/a.svg': '<svg xmlns="http://www.w3.org/2000/svg"/>',
        })(request, response, path);
      else response.writeHead(401).end('closed');
    });
    const closed = await yukkuri(['audit', server.origin, ...desk]);
    expect([closed.code, closed.err]).to.satisfy(
      ([code, err]: [number, string]) => code === 3 && err.includes('it answers with 401 and is not judged'),
    );
    const folder = await siteOf({
      'jar.txt': `# cookies\n127.0.0.1\tFALSE\t/\tFALSE\t0\tpreview\tsecret-cookie\n`,
    });
    const cache = await siteOf({});
    const file = join(folder, 'run.json');
    const html = join(folder, 'report.html');
    const { code, out, err } = await yukkuri(
      [
        ...[
          'audit',
          server.origin.replace('http://', 'http://me:secret-word@'),
          '--header',
          'X-Gate: secret-gate',
        ],
        ...['--cookies', join(folder, 'jar.txt'), '--json', file, '--html', html, ...desk],
      ],
      { XDG_CACHE_HOME: cache, YUKKURI_BROWSER: process.env['YUKKURI_BROWSER'] ?? '' },
    );
    expect(code, err).to.equal(0);
    expect(readRun(JSON.parse(await readFile(file, 'utf8'))).pages[0]?.visits[0]?.state).to.equal('complete');
    const kept = await readdir(cache, { recursive: true, withFileTypes: true });
    const texts = [out, err, await readFile(file, 'utf8'), await readFile(html, 'utf8')];
    for (const entry of kept)
      if (entry.isFile() && !entry.parentPath.includes('chromium'))
        texts.push(await readFile(join(entry.parentPath, entry.name), 'latin1'));
    for (const text of texts) expect(text).not.to.match(/secret-(gate|cookie|word)|bWU6c2VjcmV0LXdvcmQ/);
  });

  it('is looked at once it says that it is ready, with what lies over it clicked away', async () => {
    const server = await serve(
      filesAt({
        '/': page(
          `${header}<div id="wall" style="position:fixed;inset:0;background:#fff"><button>ok</button></div><div id="root"></div><script>document.querySelector('button').addEventListener('click',()=>wall.remove());setTimeout(()=>{root.innerHTML='<img src="/a.jpg" width="300" height="200" alt="x">';document.body.className='ready'},700)</script>`,
        ),
        '/a.jpg': await photo(300, 200),
      }),
    );
    const run = await auditRun(server.origin, '--wait-for', 'body.ready', '--click', '#wall button', ...desk);
    const [image] = run.placements.filter(({ kind }) => kind === 'img');
    expect(image?.downloads['desk']).to.include({ url: '/a.jpg', began: 'first-view' });
    expect(image?.shown['desk']).to.include({ seen: true });
    expect(image?.source).to.equal(null);
  });

  it('measures what other hosts send, and lets no page of elsewhere into an inner network', async () => {
    const picture = await photo(1200, 800);
    const other = await serve(filesAt({ '/hero.jpg': picture, '/spare.jpg': picture }));
    const { host } = new URL(other.origin);
    const body = page(`${header}<img src="${other.origin}/hero.jpg" width="300" height="200" alt="">`);
    const server = await serve(filesAt({ '/': body }));
    const refused = await auditRun(server.origin, '--fresh', ...desk);
    expect(refused.refused.map((each) => each.host)).to.deep.equal([host]);
    expect(other.asked).to.have.length(0);
    const folder = await siteOf({ 'index.html': body });
    for (const target of [server.origin, folder]) {
      const run = await auditRun(target, '--allow', host, ...desk);
      const file = run.files.find(({ url }) => url === `${other.origin}/hero.jpg`);
      expect(file, target).to.include({ format: 'jpeg', width: 1200, bytes: picture.length });
      const [finding] = findingsOf(run, 'more-pixels-than-needed');
      expect(finding?.screens['desk']).to.include({ neededWidth: 300 });
      expect(findingsOf(run, 'late-connection')[0]?.screens['desk']).to.include({ host });
    }
    expect(other.asked.filter(({ path }) => path === '/spare.jpg')).to.have.length(0);
    const tried = await yukkuri(['mend', folder, '--try', '--json', '--allow', host, ...desk]);
    const { left, fixes } = JSON.parse(tried.out) as { left: { why: string }[]; fixes: unknown[] };
    expect(left.map(({ why }) => why).join()).to.include(`its files belong on ${host}`);
    expect(fixes).to.deep.equal([]);
  });

  it('is patient where a server asks for it, and tells once that none answers', async () => {
    let tries = 0;
    const server = await serve((request, response, path) => {
      if (path === '/a.jpg' && tries++ === 0) response.writeHead(503, { 'Retry-After': '1' }).end();
      else if (path === '/half.jpg') {
        response.writeHead(200, { 'Content-Type': 'image/jpeg', 'Content-Length': '5000' }).write('half');
        setTimeout(() => response.destroy(), 50);
      } else if (path === '/mute.jpg') return;
      else if (path.startsWith('/round'))
        response.writeHead(302, { Location: `/round${path.length}${path}`.slice(0, 60) }).end();
      else
        filesAt({
          '/': page(
            `${header}<img src="/a.jpg" width="30" height="20" alt="a"><img src="/half.jpg" width="30" height="20" alt="b"><img src="/round.jpg" width="30" height="20" alt="c"><img src="/mute.jpg" width="30" height="20" alt="d">`,
          ),
          '/a.jpg': Buffer.from(''),
        })(request, response, path);
    });
    const run = await auditRun(server.origin, '--fresh', ...desk);
    expect(tries).to.equal(2);
    const whys = new Map(
      findingsOf(run, 'does-not-load').flatMap(({ screens }) =>
        Object.values(screens).map(({ url, why }) => [url, why] as const),
      ),
    );
    expect([...whys.keys()].sort()).to.include.members(['/half.jpg', '/mute.jpg', '/round.jpg']);
    const host = server.origin.slice('http://'.length);
    expect(whys.get('/half.jpg')).to.equal(`${host}: it broke the connection off`);
    // Its visit ends before the answer is given up; it is asked for again after.
    expect(whys.get('/mute.jpg')).to.equal(`${host}: its answer did not come in time`);
    expect(run.pages[0]?.visits.map(({ state }) => state)).to.deep.equal(['complete']);
    const gone = server.origin;
    await servers.splice(0)[0]?.close();
    const none = await yukkuri(['audit', gone, '--follow']);
    expect(none.code).to.equal(3);
    expect(none.err).to.match(
      /^yukkuri: http:\/\/127\.0\.0\.1:\d+\/ does not answer: 127\.0\.0\.1:\d+: it refuses the connection\.$/,
    );
    const unknown = await yukkuri(['audit', 'http://no-such-host.invalid/']);
    expect(unknown.err).to.match(/its name is not known|cannot be looked up/);
  });

  it('lets no server fill the memory, and asks of a long sitemap only what it takes', async () => {
    const bomb = gzipSync(Buffer.alloc(300_000_000));
    const server = await serve((request, response, path) => {
      if (path === '/bomb.svg')
        response.writeHead(200, { 'Content-Type': 'image/svg+xml', 'Content-Encoding': 'gzip' }).end(bomb);
      else if (path === '/p10')
        response.setHeader('Content-Type', 'text/html').end(Buffer.alloc(70_000_000, 32));
      else if (path === '/strange.jpg')
        response.writeHead(200, { 'Content-Type': 'image/jpeg', 'Content-Encoding': 'rot13' }).end('x');
      else if (path === '/map.txt')
        response.end(
          Array.from({ length: 50_000 }, (_, index) => `${server.origin}/p${index % 40_000}`).join('\n'),
        );
      else
        filesAt({
          '/p0': page(
            `${header}<img src="/bomb.svg" width="9" height="9" alt="a"><img src="/strange.jpg" width="9" height="9" alt="b">`,
          ),
          '/p1': page(header),
        })(request, response, path);
    });
    const run = await auditRun(
      server.origin,
      '--sitemap',
      `${server.origin}/map.txt`,
      '--most-pages',
      '3',
      ...desk,
    );
    expect(run.pages.map(({ path }) => path)).to.deep.equal(['/p0', '/p1']);
    expect(run.incomplete.map(({ why }) => why).join()).to.include('39997 more addresses are not asked');
    expect(run.incomplete.map(({ page: path, why }) => `${path} ${why}`).join()).to.match(
      /\/p10 .*larger than 60 MB/,
    );
    const broken = findingsOf(run, 'does-not-load').flatMap(({ screens }) =>
      Object.values(screens).map(({ url }) => url),
    );
    expect(broken.sort()).to.deep.equal(['/bomb.svg', '/strange.jpg']);
    expect(server.asked.filter(({ path }) => path.startsWith('/p'))).to.have.length(3);
  });

  it('says what a login page looks like, and refuses what does not fit', async () => {
    const server = await serve(
      filesAt(
        Object.fromEntries(['/', '/a', '/b'].map((path) => [path, page(`${header}${link('/a', '/b')}`)])),
      ),
    );
    const run = await auditRun(server.origin, '--follow', ...desk);
    expect(run.incomplete.map(({ why }) => why).join()).to.match(
      /all 3 pages answer with the same content, as a login page does/,
    );
    const folder = await siteOf({ 'index.html': page('x') });
    for (const [args, told] of [
      [[folder, '--sitemap', 'x.xml'], /--sitemap is for sites at an address/],
      [[server.origin, '--fallback', 'index.html'], /--fallback is for folders/],
      [[server.origin, 'http://127.0.0.1:9/'], /One audit is of one site/],
      [[folder, folder], /One audit is of one folder/],
      [[server.origin, '--header', 'nonsense'], /--header must be a name and a value/],
      [[server.origin, '--sitemap', join(folder, 'none.xml')], /The sitemap ".*" cannot be read/],
      [[server.origin, '--follow', 'far'], /--follow must be a number of links/],
      [['ftp://host.invalid/'], /There is no folder/],
    ] as const) {
      const { code, err } = await yukkuri(['audit', ...args]);
      expect(err).to.match(told);
      expect(code).to.equal(2);
    }
  });

  it('has what its server says in the run, and findings where that costs visitors', async () => {
    const small = await sharp(await photo(600, 400))
      .webp({ quality: 70 })
      .toBuffer();
    const jpeg = await photo(600, 400, 60);
    const vector = `<svg xmlns="http://www.w3.org/2000/svg" width="50" height="50">${'<path d="M0 0h50v50z"/>'.repeat(400)}</svg>`;
    const body = (prefix: string) =>
      page(
        `${header}<img src="${prefix}/auto.jpg" width="600" height="400" alt="a"><img src="${prefix}/hashed-3fa94b2c.jpg" width="600" height="400" alt="b"><img src="${prefix}/drawn.svg" width="50" height="50" alt="c"><img src="${prefix}/old.jpg" width="600" height="400" alt="d">`,
      );
    const server = await serve((request, response, path) => {
      const takesNewer = (request.headers.accept ?? '').includes('image/webp');
      if (path === '/old.jpg') response.writeHead(301, { Location: '/hashed-3fa94b2c.jpg' }).end();
      else if (path === '/auto.jpg')
        response
          .writeHead(200, {
            'Content-Type': takesNewer ? 'image/webp' : 'image/jpeg',
            'Cache-Control': 'max-age=31536000',
          })
          .end(takesNewer ? small : jpeg);
      else
        filesAt({ '/': body(''), '/hashed-3fa94b2c.jpg': jpeg, '/drawn.svg': vector }, (name) =>
          name === '/drawn.svg'
            ? { 'Cache-Control': 'max-age=31536000' }
            : {
                'Content-Type': name === '/' ? 'text/html' : 'image/png',
                'Cache-Control': 'max-age=86400',
                ETag: '"1"',
              },
        )(request, response, path);
    });
    const run = await auditRun(server.origin, '--fresh', '--returning', '0.5', ...desk);
    const answer = run.answers?.find(({ url }) => url === '/drawn.svg');
    expect(answer).to.include({
      type: 'image/svg+xml',
      wireBytes: vector.length,
      bytes: vector.length,
      coding: '',
      protocol: 'http/1.1',
      cacheControl: 'max-age=31536000',
    });
    expect(answer?.packed).to.equal(gzipSync(vector).length);
    const seen = (check: string) => findingsOf(run, check).map(({ screens }) => screens['desk']);
    expect(seen('vary-missing')).to.have.length(1);
    expect(seen('vary-missing')[0]).to.include({ url: '/auto.jpg', others: 0, vary: '' });
    expect(seen('short-cache-life')).to.have.length(1);
    expect(seen('short-cache-life')[0]).to.include({ seconds: 86_400, asks: true, hashed: true });
    expect(seen('vector-sent-unpacked')[0]).to.include({ url: '/drawn.svg', bytes: vector.length });
    expect(seen('redirected-image')[0]).to.include({
      url: '/old.jpg',
      leadsTo: '/hashed-3fa94b2c.jpg',
      redirects: 1,
    });
    expect(seen('type-differs-from-file')[0]).to.include({ type: 'image/png', format: 'jpeg' });
    // All that is used again within a day costs a returning visit nothing.
    expect(run.again).to.deep.equal({ returning: 0.5, after: 86_400, bytes: 0, questions: 0 });
  });

  it('has of a folder what a file of headers says', async () => {
    const folder = await siteOf({
      'index.html': page(`${header}<img src="/pictures/a.jpg" width="300" height="200" alt="">`),
      'pictures/a.jpg': await photo(300, 200),
      'wrong.txt': '/a\n  no header\n',
      headers: '# plain\n/pictures/*\n  Cache-Control: no-cache\n/other/:name\n  X-A: b\n',
    });
    const quiet = await auditRun(folder, ...desk);
    expect([quiet.answers, quiet.again, findingsOf(quiet, 'short-cache-life')]).to.deep.equal([
      undefined,
      undefined,
      [],
    ]);
    const run = await auditRun(folder, '--headers', join(folder, 'headers'), ...desk);
    expect(run.answers?.map(({ url, cacheControl, coding }) => [url, cacheControl, coding])).to.deep.equal([
      ['/pictures/a.jpg', 'no-cache', null],
    ]);
    expect(findingsOf(run, 'short-cache-life')[0]?.screens['desk']).to.include({
      seconds: 0,
      told: true,
      asks: true,
    });
    // One image in each visit, three of ten visits come back.
    expect(run.again).to.include({ bytes: 0, questions: 0.3 });
    const wrong = await yukkuri(['audit', folder, '--headers', join(folder, 'wrong.txt')]);
    expect(wrong.err).to.match(/line \d+ is neither a path nor/);
  });

  it('is seen whole where images come slowly, a few at a time', async () => {
    const names = Array.from({ length: 80 }, (_, index) => `/${index}.jpg`);
    const files = filesAt({
      '/': page(names.map((name) => `<img src="${name}" width="20" height="10" alt="A hut">`).join('')),
      ...Object.fromEntries(
        await Promise.all(names.map(async (name, index) => [name, await photo(40 + index, 20)])),
      ),
    });
    const server = await serve(
      (request, response, path) =>
        void setTimeout(() => files(request, response, path), path === '/' ? 0 : 500),
    );
    // Six at a time take almost seven seconds; of what does not move for five nothing more is expected, unless others come meanwhile.
    const { code, out, err } = await yukkuri(['audit', `${server.origin}/`, '--json', ...desk]);
    expect(code, err).to.equal(0);
    const { placements } = readRun(JSON.parse(out));
    expect(placements.map(({ shown }) => shown['desk']?.state)).to.deep.equal(names.map(() => 'drawn'));
  });
});
