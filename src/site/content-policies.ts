import { elementsWithin, type ParsedPage } from './walk-html.js';

/** The content policies that a page states itself, as serialized. HTML standard, 4.2.5.3 "Pragma directives". */
export function findContentPolicies({ document }: ParsedPage): string[] {
  const found: string[] = [];
  for (const { element } of elementsWithin(document)) {
    if (element.tagName !== 'meta' || element.parentNode?.nodeName !== 'head') continue;
    const value = (name: string) => element.attrs.find((each) => each.name === name)?.value ?? '';
    if (/^content-security-policy$/i.test(value('http-equiv').trim())) found.push(value('content'));
  }
  return found;
}
