/** Addresses of a site are paths from its root; a host that cannot be one makes URLs of them. */
const host = 'http://site.invalid';

/**
 * An address as a page or a style sheet writes it, resolved to a path from the site's root; of another host the whole address; as it
 * stands if it is no address.
 * @param base path from the site's root, or an absolute URL
 */
export function resolveAddress(written: string, base: string): string {
  try {
    const { href } = new URL(written, new URL(base, host));
    return href.startsWith(`${host}/`) ? href.slice(host.length) : href;
  } catch {
    return written;
  }
}

const folderOf = (path: string) => path.slice(0, path.lastIndexOf('/') + 1);

/**
 * Writes an address the way another one is written: relative where that is relative, as long as both lie in one folder; else from the
 * site's root.
 * @param url path from the site's root
 * @param like an address as written in the same text
 */
export function writeAddress(url: string, like: string, base: string): string {
  const plain = like.replace(/[?#].*$/s, '');
  const alike = resolveAddress(plain, base);
  if (folderOf(alike) !== folderOf(url)) return url;
  return folderOf(plain) + url.slice(folderOf(url).length);
}
