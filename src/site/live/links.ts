import { valueOf } from '../../core/templates/elements.js';
import { elementsWithin, parsePage, relationsOf } from '../walk-html.js';

/** What a page says of itself and of others. */
export interface PageLinks {
  /** Absolute addresses that it links to, in the order of the document; none where it asks not to follow them. */
  links: URL[];
  /** The address that it names as the one to count. RFC 6596. */
  canonical: string | undefined;
}

/** Reads the links of a page. Those that say `nofollow`, and all of a page that says so of itself, are left out unless they are to be followed. */
export function readLinks(html: string, address: string, followsAll: boolean): PageLinks {
  const links: URL[] = [];
  let base = address;
  let canonical: string | undefined;
  let closed = false;
  for (const { element } of elementsWithin(parsePage(html).document)) {
    const { tagName } = element;
    const href = valueOf(element, 'href');
    const relations = relationsOf(element);
    if (tagName === 'meta' && /^(robots|yukkuri)$/i.test(valueOf(element, 'name') ?? ''))
      closed ||= /\b(nofollow|none)\b/i.test(valueOf(element, 'content') ?? '');
    if (href === undefined) continue;
    if (tagName === 'base' && base === address && URL.canParse(href, address))
      base = new URL(href, address).href;
    if (tagName === 'link' && relations.includes('canonical') && URL.canParse(href, base))
      canonical ??= new URL(href, base).href;
    if ((tagName === 'a' || tagName === 'area') && URL.canParse(href, base))
      if (followsAll || !relations.includes('nofollow')) links.push(new URL(href, base));
  }
  return { links: closed && !followsAll ? [] : links, canonical };
}
