import { valueOf } from '../core/templates/elements.js';
import { elementsWithin, type ParsedPage } from './walk-html.js';

/** The content policies that a page states itself, as serialized. HTML standard, 4.2.5.3 "Pragma directives". */
export function findContentPolicies({ document }: ParsedPage): string[] {
  const found: string[] = [];
  for (const { element } of elementsWithin(document)) {
    if (element.tagName !== 'meta' || element.parentNode?.nodeName !== 'head') continue;
    if (/^content-security-policy$/i.test((valueOf(element, 'http-equiv') ?? '').trim()))
      found.push(valueOf(element, 'content') ?? '');
  }
  return found;
}
