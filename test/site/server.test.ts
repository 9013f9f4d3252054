import { request } from 'node:http';
import { expect } from 'chai';
import { openFolder } from '../../dist/src/site/index.js';
import { removeSites, siteOf } from '../support/program.js';

interface Answer {
  status: number | undefined;
  type: string | undefined;
  allow: string | undefined;
}

function ask(port: number, method: string, path: string, host = `127.0.0.1:${port}`): Promise<Answer> {
  return new Promise((resolve, reject) => {
    const asked = request({ port, host: '127.0.0.1', method, path, headers: { host } }, (answer) => {
      answer.resume();
      const { 'content-type': type, allow } = answer.headers;
      answer.on('end', () => resolve({ status: answer.statusCode, type, allow }));
    });
    asked.on('error', reject).end();
  });
}

describe('the server of a folder', () => {
  after(removeSites);

  it('answers what reads, under its own name only, whatever the path', async () => {
    const folder = await siteOf({
      'index.html': '<p>caf\u00e9</p>',
      '.parts/a.css': 'p {}',
      '.git/config': '',
      'latin.html': Buffer.from('<meta charset="iso-8859-1"><p>caf\u00e9</p>', 'latin1'),
    });
    const site = await openFolder(folder);
    const port = Number(new URL(site.origin).port);
    try {
      expect(await ask(port, 'GET', '/')).to.include({ status: 200, type: 'text/html; charset=utf-8' });
      expect(await ask(port, 'HEAD', '/')).to.include({ status: 200 });
      // The page says itself what it is.
      expect(await ask(port, 'GET', '/latin.html')).to.include({ status: 200, type: 'text/html' });
      expect(await ask(port, 'GET', '/.parts/a.css')).to.include({ status: 200 });
      expect(await ask(port, 'GET', '/.git/config')).to.include({ status: 404 });
      for (const method of ['DELETE', 'POST', 'PUT', 'OPTIONS'])
        expect(await ask(port, method, '/')).to.include({ status: 405, allow: 'GET, HEAD' });
      for (const host of ['elsewhere.invalid', `localhost:${port}`, '127.0.0.1'])
        expect((await ask(port, 'GET', '/', host)).status, host).to.equal(421);
      expect((await ask(port, 'GET', '//')).status).to.equal(404);
      expect((await ask(port, 'GET', '//elsewhere.invalid/x')).status).to.equal(404);
      expect((await ask(port, 'GET', '/%zz')).status).to.equal(400);
    } finally {
      await site.close();
    }
  });
});
