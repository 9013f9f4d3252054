import { elementsWithin, type ParsedPage } from './walk-html.js';

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
    const value = (name: string) => element.attrs.find((each) => each.name === name)?.value ?? '';
    const place = element.sourceCodeLocation?.attrs?.['integrity'];
    const relations = value('rel').toLowerCase().split(/\s+/);
    const isSheet =
      relations.includes('stylesheet') || (relations.includes('preload') && /^style$/i.test(value('as')));
    if (!isSheet || !place || value('integrity').trim() === '') continue;
    found.push({
      href: value('href'),
      integrity: value('integrity'),
      from: place.startOffset,
      to: place.endOffset,
    });
  }
  return found;
}
