import { asElement, writeAttribute } from './attribute-text.js';
import { attributeOf } from './tag.js';

/** Whether a text is a style attribute with its name: so one is told whose declarations are not written as they are meant. */
export const isStyleAttribute = (text: string) => /^style\s*=/i.test(text);

/** The declarations of a style attribute, without quotes and entities. What is none is given as it is. */
export function declarationsIn(text: string): string {
  if (!isStyleAttribute(text)) return text;
  return attributeOf(asElement(text), 'style') ?? '';
}

/** A style attribute with its name. */
export const asStyleAttribute = (declarations: string) => writeAttribute('style', declarations);
