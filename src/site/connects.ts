import { elementsWithin, type ParsedPage } from './walk-html.js';

/** Origins that a page connects to before it asks for something there, sorted. HTML standard, 4.6.7.14 "preconnect". */
export function findConnects({ document }: ParsedPage, baseUrl: string): string[] {
  const origins = new Set<string>();
  for (const { element } of elementsWithin(document)) {
    if (element.tagName !== 'link') continue;
    const value = (name: string) => element.attrs.find((each) => each.name === name)?.value ?? '';
    const relations = value('rel').toLowerCase().split(/\s+/);
    if (relations.includes('preconnect') && URL.canParse(value('href'), baseUrl))
      origins.add(new URL(value('href'), baseUrl).origin);
  }
  return [...origins].sort();
}
