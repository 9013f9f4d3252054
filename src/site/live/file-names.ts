/**
 * The name that the answer to an address has as a file, from the root of its site: as a static host would serve it from a folder. A query
 * is part of it.
 * @param address of the audited site, absolute
 * @param isPage whether it answers with HTML
 */
export function fileNameOf(address: string, isPage: boolean): string {
  const { pathname, search } = new URL(address);
  const name = pathname.slice(1).split('/').map(decodedPart).join('/');
  const query = search === '' ? '' : `@${decodedPart(search.slice(1)).replaceAll('/', '%2F')}`;
  if (name === '' || name.endsWith('/')) return `${name}index${query}.html`;
  if (isPage && !/\.[a-z0-9]{1,8}$/i.test(name)) return `${name}${query}.html`;
  return query === '' ? name : name.replace(/(\.[^./]*)?$/, `${query}$1`);
}

/** A part that would lead elsewhere is left as it is written. */
function decodedPart(part: string): string {
  try {
    const plain = decodeURIComponent(part);
    return plain === '.' || plain === '..' || /[/\\\0]/.test(plain) ? part : plain;
  } catch {
    return part;
  }
}
