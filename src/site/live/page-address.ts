import { lookup as typeOfName } from 'mime-types';

/** Parameters that tell where a visitor comes from and change nothing of the page. */
const tracking =
  /^(utm_\w+|gclid|gbraid|wbraid|dclid|fbclid|msclkid|twclid|ttclid|yclid|igshid|mc_[ce]id|_ga|_gl)$/i;

/**
 * An address as the one that stands for all that lead to the same page: without fragment and tracking parameters, the other parameters
 * sorted and each once.
 */
export function plainAddress(address: URL): string {
  const plain = new URL(address.href);
  plain.hash = '';
  plain.username = '';
  plain.password = '';
  const own = [...plain.searchParams].filter(([name]) => !tracking.test(name));
  if (own.length === 0) plain.search = '';
  else {
    const texts = new Map(own.map((pair) => [JSON.stringify(pair), pair]));
    const sorted = [...texts].sort(([a], [b]) => (a < b ? -1 : 1)).map(([, pair]) => pair);
    // As it is written where nothing is to be changed: a parameter without a value would get an "=".
    if (sorted.length !== plain.searchParams.size || sorted.some((pair, at) => pair !== own[at]))
      plain.search = new URLSearchParams(sorted).toString();
  }
  return plain.href;
}

const noPage =
  /^(image|audio|video|font)\/|^text\/(css|javascript|plain|csv|calendar)$|^application\/(pdf|zip|gzip|json|javascript|xml|rss\+xml|atom\+xml|msword|octet-stream|x-(tar|gzip|bzip2|7z-compressed|rar-compressed|msdownload|apple-diskimage|iso9660-image|shockwave-flash)|vnd\..*|epub\+zip|manifest\+json|java-archive|postscript|rtf|wasm)$/;

/** Whether an address tells by its ending that no page answers there, so that it need not be asked. */
export function isNoPage({ pathname }: URL): boolean {
  const type = typeOfName(pathname.slice(pathname.lastIndexOf('/') + 1));
  return typeof type === 'string' && pathname.includes('.') && noPage.test(type);
}
