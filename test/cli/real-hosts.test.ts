import { spawn } from 'node:child_process';
import { once } from 'node:events';
import { createSecureServer } from 'node:http2';
import type { IncomingMessage, ServerResponse } from 'node:http';
import type { AddressInfo } from 'node:net';
import { join } from 'node:path';
import { setTimeout as pause } from 'node:timers/promises';
import { expect } from 'chai';
import { execa } from 'execa';
import { generate } from 'selfsigned';
import { build, createServer, preview } from 'vite';
import type { Run } from '../../src/core/run/index.js';
import { filesAt, serverThat } from '../support/odd-server.js';
import { auditRun, findingsOf, page, photo, removeSites, siteOf, yukkuri } from '../support/program.js';

const desk = ['--screen', 'desk=1000x800@1', '--encode', 'none'];
const fixesOf = ({ fixes }: Run) => fixes.map(({ id, saves }) => [id, saves.expected]);

/** A free port, which nobody takes in the moment until it is taken. */
async function freePort(): Promise<number> {
  const server = await serverThat(() => undefined);
  await server.close();
  return Number(new URL(server.origin).port);
}

describe('real hosts', function () {
  this.timeout(120_000);
  after(removeSites);

  /** Two pages with a style, a picture that is too large, one that is put off, and a drawing. */
  const site = async () => ({
    'index.html': page(
      '<link rel="stylesheet" href="site.css"><img src="pictures/wide.jpg" width="400" height="267" alt="a"><a href="second.html">2</a>',
    ),
    'second.html': page(
      '<link rel="stylesheet" href="site.css"><div class="band"></div><p style="height:4000px"></p><img src="pictures/late.jpg" loading="lazy" width="300" height="200" alt="b"><img src="drawing.svg" width="40" height="40" alt="c">',
    ),
    'site.css': `.band{height:90px;background:url(pictures/wide.jpg) center/cover}${'p{margin:0}'.repeat(100)}`,
    'drawing.svg': `<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 9 9">${'<path d="M0 0h9v9z"/>'.repeat(300)}</svg>`,
    'pictures/wide.jpg': await photo(1600, 1067),
    'pictures/late.jpg': await photo(900, 600),
  });

  it('answer as a folder does: nginx, with its packing and its headers', async function () {
    const found = await execa('nginx', ['-v'], { reject: false }).catch(() => undefined);
    if (found?.exitCode !== 0) this.skip();
    const folder = await siteOf(await site());
    const place = await siteOf({});
    const port = await freePort();
    const temporary = ['client_body', 'proxy', 'fastcgi', 'uwsgi', 'scgi'].map(
      (name) => `${name}_temp_path ${place}/${name};`,
    );
    const settings = `daemon off; pid ${place}/pid; error_log ${place}/errors; ${process.getuid?.() === 0 ? 'user root;' : ''}
      events {}
      http {
        types { text/html html; text/css css; image/jpeg jpg; image/svg+xml svg; }
        access_log ${place}/asked; ${temporary.join(' ')}
        gzip on; gzip_types text/css;
        server { listen 127.0.0.1:${port}; root ${folder}; location /pictures/ { expires 1h; } }
      }`;
    const file = join(await siteOf({ 'nginx.conf': settings }), 'nginx.conf');
    const nginx = spawn('nginx', ['-c', file], { stdio: 'ignore' });
    try {
      await pause(500);
      const live = await auditRun(`http://127.0.0.1:${port}/`, '--follow', '--fresh', ...desk);
      const own = await auditRun(folder, ...desk);
      expect(live.pages.map(({ path, file: name }) => [path, name])).to.deep.equal(
        own.pages.map(({ path, file: name }) => [path, name]),
      );
      const bySavings = ({ fixes }: Run) => fixes.filter(({ saves }) => saves.expected > 0);
      expect(fixesOf({ ...live, fixes: bySavings(live) })).to.deep.equal(
        fixesOf({ ...own, fixes: bySavings(own) }),
      );
      const wide = live.answers?.find(({ url }) => url === '/pictures/wide.jpg');
      expect(wide).to.include({ cacheControl: 'max-age=3600', protocol: 'http/1.1', coding: '' });
      expect(
        findingsOf(live, 'short-cache-life').map(({ screens }) => screens['desk']?.['seconds']),
      ).to.include(3600);
      expect(findingsOf(live, 'vector-sent-unpacked')[0]?.screens['desk']).to.include({
        url: '/drawing.svg',
      });
    } finally {
      nginx.kill();
      await once(nginx, 'exit');
    }
  });

  it('speak HTTP/2, behind a certificate that is taken only when told so', async () => {
    const files = await site();
    const { private: key, cert } = await generate([{ name: 'commonName', value: 'localhost' }], {
      keySize: 2048,
    });
    const answers = filesAt(
      Object.fromEntries(
        Object.entries({ ...files, '': files['index.html'] }).map(([name, content]) => [`/${name}`, content]),
      ),
    );
    const server = createSecureServer({ key, cert, allowHTTP1: true }, ((
      request: IncomingMessage,
      response: ServerResponse,
    ) => answers(request, response, request.url ?? '/')) as never);
    server.listen(0, '127.0.0.1');
    await once(server, 'listening');
    const address = `https://127.0.0.1:${(server.address() as AddressInfo).port}/`;
    try {
      const refused = await yukkuri(['audit', address, ...desk]);
      expect([refused.code, refused.err]).to.satisfy(
        ([code, err]: [number, string]) => code === 3 && /certificate .*--insecure takes it/.test(err),
      );
      const run = await auditRun(address, '--insecure', '--follow', ...desk);
      expect(run.pages).to.have.length(2);
      expect(run.answers?.map(({ protocol }) => protocol)).to.deep.equal(['h2', 'h2', 'h2']);
      expect(findingsOf(run, 'more-pixels-than-needed')[0]?.screens['desk']).to.include({ neededWidth: 400 });
    } finally {
      server.close();
    }
  });

  it('are those of developers too: Vite, built and while it is worked on', async () => {
    const root = await siteOf({
      'index.html':
        '<!doctype html><html lang="en"><meta charset="utf-8"><meta name="viewport" content="width=device-width"><title>App</title><style>body{margin:0}</style><div id="app"></div><script type="module" src="/main.js"></script></html>',
      'main.js': `import './app.css'; import { show } from './show.js'; import wide from './wide.jpg'; show(wide);`,
      'show.js': `export const show = (src) => { document.querySelector('#app').innerHTML = '<img alt="wide" width="400" height="267" src="' + src + '">'; };`,
      'app.css': 'img{display:block}',
      'wide.jpg': await photo(1600, 1067),
    });
    const quiet = { root, configFile: false, logLevel: 'silent' } as const;
    await build({ ...quiet, build: { outDir: join(root, 'dist') } });
    const built = await preview({
      ...quiet,
      preview: { host: '127.0.0.1', port: await freePort() },
      build: { outDir: join(root, 'dist') },
    });
    const worked = await createServer({ ...quiet, server: { host: '127.0.0.1', port: await freePort() } });
    await worked.listen();
    try {
      for (const address of [built.resolvedUrls?.local[0], worked.resolvedUrls?.local[0]]) {
        const run = await auditRun(address ?? '', ...desk);
        expect(run.incomplete).to.deep.equal([]);
        const [image] = run.placements.filter(({ kind }) => kind === 'img');
        // Nobody can say which line of which file has made it.
        expect(image?.source).to.equal(null);
        expect(image?.selector).to.match(/img/);
        expect(findingsOf(run, 'more-pixels-than-needed')[0]?.screens['desk']).to.include({
          neededWidth: 400,
        });
        expect(run.files.find(({ format }) => format === 'jpeg')).to.include({ width: 1600 });
      }
    } finally {
      await built.close();
      await worked.close();
    }
  });
});
