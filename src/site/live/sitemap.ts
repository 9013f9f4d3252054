import { promisify } from 'node:util';
import { gunzip } from 'node:zlib';
import { SaxesParser } from 'saxes';

const unpack = promisify(gunzip);
/** A sitemap has at most 50 MB unpacked (sitemaps.org, "Sitemap file guidelines"). */
const mostBytes = 60_000_000;

export interface SitemapEntries {
  /** Addresses of pages. */
  pages: string[];
  /** Addresses of other sitemaps: it is an index. */
  sitemaps: string[];
}

/**
 * Reads a sitemap: XML of sitemaps.org, an index of such, or a list with an address on each line; packed by gzip or not. Entities other than
 * those of XML itself are not known, so none is expanded.
 * @throws {Error} saying what is wrong with it
 */
export async function readSitemap(content: Buffer): Promise<SitemapEntries> {
  const packed = content[0] === 0x1f && content[1] === 0x8b;
  const plain = packed ? await unpack(content, { maxOutputLength: mostBytes }).catch(tooLarge) : content;
  if (plain.length > mostBytes) tooLarge();
  const text = plain.toString('utf8').replace(/^\uFEFF/, '');
  return /^\s*</.test(text) ? readXml(text) : { pages: readLines(text), sitemaps: [] };
}

function tooLarge(cause?: unknown): never {
  const why =
    cause instanceof Error && !/larger than/i.test(cause.message)
      ? 'is not packed by gzip as it seems'
      : 'is too large';
  throw new Error(why, { cause });
}

function readLines(text: string): string[] {
  const lines = text
    .split(/\r?\n/)
    .map((line) => line.trim())
    .filter((line) => line !== '');
  const wrong = lines.find((line) => !/^https?:\/\//i.test(line));
  if (wrong !== undefined)
    throw new Error(`is neither XML nor a list of addresses: it says "${wrong.slice(0, 60)}"`);
  return lines;
}

function readXml(text: string): SitemapEntries {
  const entries: SitemapEntries = { pages: [], sitemaps: [] };
  const path: string[] = [];
  let address = '';
  const parser = new SaxesParser();
  const localName = (name: string) => name.replace(/^.*:/, '');
  parser.on('opentag', ({ name }) => {
    path.push(localName(name));
    address = '';
  });
  parser.on('text', (more) => (address += more));
  parser.on('cdata', (more) => (address += more));
  parser.on('closetag', () => {
    const place = path.slice(-2).join('/');
    if (place === 'url/loc') entries.pages.push(address.trim());
    if (place === 'sitemap/loc') entries.sitemaps.push(address.trim());
    path.pop();
  });
  parser.on('error', (cause) => {
    throw new Error(`is not well-formed XML: ${cause.message}`, { cause });
  });
  parser.write(text).close();
  if (entries.pages.length + entries.sitemaps.length === 0) throw new Error('names no address');
  return entries;
}
