import { createHash } from 'node:crypto';
import { stat, utimes, writeFile } from 'node:fs/promises';
import { join } from 'node:path';
import { setTimeout as sleep } from 'node:timers/promises';
import { expect } from 'chai';
import { FileHashes } from '../../src/site/file-hashes.js';
import { removeSites, siteOf } from '../support/program.js';

const sha256 = (text: string) => createHash('sha256').update(text).digest('hex');

describe('hashes of files', () => {
  after(removeSites);

  it('are of the content, and read again when a file changes', async () => {
    const path = join(await siteOf({ 'a.txt': 'one' }), 'a.txt');
    const hashes = new FileHashes();
    expect((await hashes.hashNow(path))?.hash).to.equal(sha256('one'));
    await sleep(40);
    await writeFile(path, 'two');
    expect((await hashes.hashNow(path))?.hash).to.equal(sha256('two'));
    expect((await hashes.hashOf(path))?.hash).to.equal(sha256('two'));
    await writeFile(path, 'three');
    expect((await hashes.hashOf(path))?.hash, 'as it was when it was first asked for').to.equal(
      sha256('two'),
    );
    expect(await hashes.hashNow(`${path}.none`)).to.equal(undefined);
  });

  it('are trusted while size, times and place are the same, and no longer', async () => {
    const path = join(await siteOf({ 'a.txt': 'one' }), 'a.txt');
    await sleep(40);
    const earlier = new FileHashes();
    await earlier.hashNow(path);
    const known = earlier.known.get(path);
    if (!known) throw new Error('nothing is known');
    const wrong = new FileHashes();
    wrong.trust(new Map([[path, { ...known, hash: 'trusted' }]]));
    expect((await wrong.hashNow(path))?.hash).to.equal('trusted');
    // Written with the same size, and its time set back: the time of the change cannot be set.
    const { atime, mtime } = await stat(path);
    await writeFile(path, 'two');
    await utimes(path, atime, mtime);
    expect((await stat(path)).mtimeMs).to.be.closeTo(known.modified, 1);
    expect((await wrong.hashNow(path))?.hash).to.equal(sha256('two'));
  });

  it('of files that were written just now are not to be trusted', async () => {
    const path = join(await siteOf({}), 'a.txt');
    const hashes = new FileHashes();
    await writeFile(path, 'one');
    // On a machine with much to do “just now” may be over before it is read.
    const soon = new Date(Date.now() + 3_600_000);
    await utimes(path, soon, soon);
    await hashes.hashNow(path);
    expect(hashes.known.has(path)).to.equal(false);
  });
});
