import { valueOf } from '../core/templates/elements.js';
import { elementsWithin, relationsOf, type ParsedPage } from './walk-html.js';

/** Origins that a page connects to before it asks for something there, sorted. HTML standard, 4.6.7.14 "preconnect". */
export function findConnects({ document }: ParsedPage, baseUrl: string): string[] {
  const origins = new Set<string>();
  for (const { element } of elementsWithin(document)) {
    if (element.tagName !== 'link' || !relationsOf(element).includes('preconnect')) continue;
    const href = valueOf(element, 'href') ?? '';
    if (URL.canParse(href, baseUrl)) origins.add(new URL(href, baseUrl).origin);
  }
  return [...origins].sort();
}
