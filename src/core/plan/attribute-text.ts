import { attributeText } from './tag-writer.js';

/** Whether a text is an attribute alone, without the element that has it. */
export const isAttribute = (text: string) => /^[a-z][\w:.-]*\s*(=|$)/i.test(text);

/** A text as that of an element, so that its attributes can be read. */
export const asElement = (text: string) => (isAttribute(text) ? `<i ${text}>` : text);

/** An attribute with its name. */
export const writeAttribute = (name: string, value: string) => `${name}="${attributeText(value)}"`;
