import { forbiddenBy, policiesOfHeader } from '../core/headers/content-policy.js';
import type { PageRecord } from '../core/run/index.js';
import { findSealedSheets, type ParsedPage, type Site } from '../site/index.js';
import type { AuditContext } from './context.js';

/**
 * What a page is protected by against other texts than its own: policies, its frames' among them, and hashes of its style sheets.
 * @param stated the policies that it and its frames state in their markup
 * @param base absolute
 */
export async function protectionsOf(
  { site, urls }: Pick<AuditContext, 'site' | 'urls'>,
  page: { path: string; base: string; parsed: ParsedPage },
  stated: readonly string[],
  frames: readonly string[],
): Promise<Pick<PageRecord, 'forbids' | 'sealedSheets'>> {
  const own = [page.path, ...frames.filter((url) => urls.isOwn(url)).map((url) => urls.shorten(url))];
  const sent = await Promise.all(own.map((path) => policiesSentWith(site, path)));
  const forbids = forbiddenBy([...stated, ...sent.flat()]);
  const sealed = findSealedSheets(page.parsed).flatMap(
    ({ href }) => site.fileAt(urls.resolve(href, page.base)) ?? [],
  );
  return {
    ...(forbids.length > 0 ? { forbids } : {}),
    ...(sealed.length > 0 ? { sealedSheets: [...new Set(sealed)].sort() } : {}),
  };
}

/** Where nobody knows what a server says, nothing is forbidden. */
async function policiesSentWith(site: Site, path: string): Promise<string[]> {
  const told = await site.answerTo?.(path).catch(() => undefined);
  return (told?.headers ?? []).flatMap(([name, value]) =>
    name === 'content-security-policy' ? policiesOfHeader(value) : [],
  );
}
