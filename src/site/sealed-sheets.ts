import { valueOf } from '../core/templates/elements.js';
import { elementsWithin, relationsOf, type ParsedPage } from './walk-html.js';

/** A link to a style sheet that is only applied while its content has one of these hashes. Subresource Integrity, section 3.7. */
export interface SealedSheet {
  href: string;
  integrity: string;
  /** Of the attribute, name and value, in the page's text. */
  from: number;
  to: number;
}

/** The links of a page that state the hash of a style sheet, or of what is preloaded as one. */
export function findSealedSheets({ document }: ParsedPage): SealedSheet[] {
  const found: SealedSheet[] = [];
  for (const { element } of elementsWithin(document)) {
    if (element.tagName !== 'link') continue;
    const place = element.sourceCodeLocation?.attrs?.['integrity'];
    const integrity = valueOf(element, 'integrity') ?? '';
    const relations = relationsOf(element);
    const isSheet =
      relations.includes('stylesheet') ||
      (relations.includes('preload') && /^style$/i.test(valueOf(element, 'as') ?? ''));
    if (!isSheet || !place || integrity.trim() === '') continue;
    const href = valueOf(element, 'href') ?? '';
    found.push({ href, integrity, from: place.startOffset, to: place.endOffset });
  }
  return found;
}
