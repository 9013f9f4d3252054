import { createHash } from 'node:crypto';
import { stat, readFile } from 'node:fs/promises';
import { existsSync } from 'node:fs';
import { join } from 'node:path';
import { typeOfFile } from '../server.js';
import type { Site } from '../site.js';
import { fileNameOf } from './file-names.js';

/**
 * A site at an address as it would be with some files put in their places.
 * @param folder holds them, by the names that the site gives its files
 */
export function overlaySite(site: Site, folder: string): Site {
  const { network, origin } = site;
  if (!network) throw new Error('only sites at an address can be looked through');
  const isHere = (file: string) => existsSync(join(folder, file));
  const fileAt = (path: string): string | undefined => {
    const known = site.fileAt(path);
    if (known !== undefined || !path.startsWith('/')) return known;
    const name = fileNameOf(origin + path, false);
    return isHere(name) ? name : undefined;
  };
  const read = (file: string) => (isHere(file) ? readFile(join(folder, file)) : site.read(file));
  const hashOf = async (file: string) =>
    isHere(file)
      ? createHash('sha256')
          .update(await read(file))
          .digest('hex')
      : site.hashOf(file);
  const ownFile = (url: string): string | undefined => {
    if (!url.startsWith(`${origin}/`)) return undefined;
    const file = fileAt(url.slice(origin.length).replace(/#.*$/s, ''));
    return file !== undefined && isHere(file) ? file : undefined;
  };
  return {
    ...site,
    get names() {
      return site.names;
    },
    fileAt,
    read,
    hashOf,
    ask: (addresses) =>
      site.ask(
        [...addresses].filter((each) => ownFile(each.startsWith('/') ? origin + each : each) === undefined),
      ),
    // What stands in the folder is part of every answer.
    answers: { to: () => Promise.resolve(''), given: () => Promise.resolve(undefined) },
    network: {
      ...network,
      async answer(request) {
        const file = ownFile(request.url);
        if (request.method !== 'GET' || file === undefined) return network.answer(request);
        const [body, given] = await Promise.all([
          read(file),
          site.fileAt(request.url.slice(origin.length)) === undefined ? undefined : network.answer(request),
        ]);
        const { size } = await stat(join(folder, file));
        const headers =
          given && 'status' in given ? given.headers : [{ name: 'content-type', value: typeOfFile(file) }];
        return { status: 200, headers, body, wireBytes: size };
      },
    },
    close: () => Promise.resolve(),
  };
}
