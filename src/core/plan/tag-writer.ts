import type { DefaultTreeAdapterTypes } from 'parse5';

type Element = DefaultTreeAdapterTypes.Element;

const lineLimit = 72;

/** Elements that have no closing tag. HTML standard, 13.1.2 "void elements". */
const voidElements = new Set(['img', 'source', 'input', 'link', 'embed', 'track', 'br']);

/**
 * Writes an element and what it contains, attributes on lines of their own where they do not fit on one.
 * @param spaced whether what it contains stands on lines of its own; else no white space parts it
 */
export function writeElement(element: Element, { indent = '', spaced = true } = {}): string {
  const tag = openingTag(element, indent);
  if (voidElements.has(element.tagName)) return tag;
  const children = element.childNodes.filter((node): node is Element => 'tagName' in node);
  const [before, after] = spaced ? [`\n${indent}  `, `\n${indent}`] : ['', ''];
  const inner = children.map((child) => `${before}${writeElement(child, { indent: `${indent}  `, spaced })}`);
  return `${tag}${inner.join('')}${children.length > 0 ? after : ''}</${element.tagName}>`;
}

function openingTag({ tagName, attrs }: Element, indent: string): string {
  const single = `<${[tagName, ...attrs.map((attribute) => writeAttribute(attribute, 0))].join(' ')}>`;
  if (indent.length + single.length <= lineLimit) return single;
  const lines = attrs.map((attribute) => `${indent}  ${writeAttribute(attribute, indent.length + 2)}`);
  return `<${tagName}\n${lines.join('\n')}>`;
}

/** Lists that may be broken into lines after their commas. */
const breakable = new Set(['srcset', 'sizes', 'imagesrcset', 'imagesizes']);

/** @param indent of the attribute, in characters; 0 for one line whatever its length */
function writeAttribute(
  { name: local, prefix, value }: { name: string; prefix?: string; value: string },
  indent: number,
): string {
  const name = prefix ? `${prefix}:${local}` : local;
  if (value === '' && name !== 'alt') return name;
  const isList = breakable.has(name);
  const text = attributeText(isList ? value.trim().replace(/\s+/g, ' ') : value);
  const single = `${name}="${text}"`;
  if (indent === 0 || indent + single.length <= lineLimit || !isList) return single;
  const entries = text.split(/,\s+/);
  const margin = ' '.repeat(indent + 2);
  return `${name}="\n${entries.map((entry) => margin + entry).join(',\n')}"`;
}

/**
 * Characters that turn the direction of what is read, or that nobody sees. Unicode Standard Annex 9, section 2 "Directional Formatting
 * Characters".
 */
const hidden = /[\u061c\u200e\u200f\u2028-\u202e\u2066-\u2069\ufeff]/g;

/**
 * A value as it stands between double quotes. What is hidden is written by its number: it can be seen then, and is the same once it is
 * pasted. HTML standard, 13.1.4 "Character references".
 */
export function attributeText(value: string): string {
  return value
    .replaceAll('&', '&amp;')
    .replaceAll('"', '&quot;')
    .replace(hidden, (character) => `&#x${character.charCodeAt(0).toString(16)};`);
}
