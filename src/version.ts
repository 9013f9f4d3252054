import { existsSync, readFileSync } from 'node:fs';

/** The nearest manifest above this module, which lies elsewhere compiled, bundled and as source. */
function findManifest(): URL {
  let manifest = new URL('./package.json', import.meta.url);
  while (!existsSync(manifest) && manifest.pathname !== '/package.json')
    manifest = new URL('../package.json', manifest);
  return manifest;
}

export const toolVersion = (JSON.parse(readFileSync(findManifest(), 'utf8')) as { version: string }).version;
