import { createHash } from 'node:crypto';
import type { Run } from '../core/run/index.js';
import {
  findSealedSheets,
  parsePage,
  readEncodedText,
  writeEncodedText,
  type SealedSheet,
  type Site,
} from '../site/index.js';

/** Files before and after, by name. */
export type Contents = Map<string, { before: Buffer; after: Buffer }>;

const isSheet = /\.css$/i;

/**
 * Writes into the pages that state hashes of edited style sheets those of the new texts: no browser would apply the sheets otherwise.
 * Subresource Integrity, section 3.3: each algorithm that was named is named again.
 */
export async function renewIntegrity(site: Site, run: Pick<Run, 'pages'>, contents: Contents): Promise<void> {
  if (![...contents.keys()].some((file) => isSheet.test(file))) return;
  const bases = new Map(run.pages.map(({ file, base }) => [file, base]));
  for (const { path, file } of site.pages) {
    const before = contents.get(file)?.before ?? (await site.read(file).catch(() => undefined));
    const read = before && readEncodedText(contents.get(file)?.after ?? before);
    // Most pages state none.
    if (!read || !/\bintegrity\b/i.test(read.text)) continue;
    const base = new URL(bases.get(file) ?? path, site.origin);
    const text = withNewHashes(read.text, (href) => newContent(site, contents, base, href));
    const after = text === read.text ? undefined : writeEncodedText({ ...read, text });
    if (after) contents.set(file, { before, after });
  }
}

/** What a link leads to, if that is edited. */
function newContent(site: Site, contents: Contents, base: URL, href: string): Buffer | undefined {
  const url = URL.canParse(href, base) ? new URL(href, base) : undefined;
  const file = url?.origin === site.origin ? site.fileAt(url.pathname + url.search) : undefined;
  return file === undefined ? undefined : contents.get(file)?.after;
}

function withNewHashes(text: string, contentOf: (href: string) => Buffer | undefined): string {
  let written = text;
  for (const sheet of findSealedSheets(parsePage(text)).reverse()) {
    const content = contentOf(sheet.href);
    if (content) written = written.slice(0, sheet.from) + attribute(sheet, content) + written.slice(sheet.to);
  }
  return written;
}

function attribute({ integrity }: SealedSheet, content: Buffer): string {
  const names = [...integrity.matchAll(/\b(sha256|sha384|sha512)-/gi)].map(
    ([, name]) => name?.toLowerCase() ?? '',
  );
  const hashes = [...new Set(names)].map(
    (name) => `${name}-${createHash(name).update(content).digest('base64')}`,
  );
  return `integrity="${hashes.join(' ')}"`;
}
