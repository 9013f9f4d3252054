import { isCopied } from './copied-sources.js';
import { nodeName } from './identity.js';
import { native, nativeDocument } from './native.js';

/** Attributes in which pages of all ages say what is to happen; what happens when an image fails is no other picture. */
const handlers = [
  'onclick',
  'ondblclick',
  'onmouseover',
  'onmouseout',
  'onmouseenter',
  'onmouseleave',
  'onmousedown',
  'onmouseup',
  'onpointerenter',
  'onpointerleave',
  'ontouchstart',
  'onfocus',
  'onblur',
  'onchange',
  'oninput',
  'onload',
];
const withHandler = [...handlers.map((name) => `[${name}]`), '[href^="javascript:" i]'].join();

/** The texts of an element that say what is to happen. */
function textsOf(element: Element): string[] {
  const own = native(element);
  const href = own.getAttribute('href') ?? '';
  const written = handlers.flatMap((name) => own.getAttribute(name) ?? []);
  return /^\s*javascript:/i.test(href) ? [...written, href] : written;
}

/** The texts of the page's own scripts, and of its attributes for events. */
export function scriptTexts(): string[] {
  const inline = [...nativeDocument.scripts]
    .filter(({ src, type }) => src === '' && /^(|module|.*javascript)$/i.test(type))
    .map(({ text }) => text);
  const attributes = [...nativeDocument.querySelectorAll(withHandler)].flatMap(textsOf);
  return [...inline, ...new Set(attributes)];
}

/**
 * Images whose `src` is written by what is to happen on the page: those that selectors find, those that write their own, and, where anything writes `src`
 * at all, those whose id or name stands in such an attribute; and those whose `src` a script copies into others.
 */
export function writtenImages(
  images: readonly HTMLImageElement[],
  selectors: readonly string[],
  isWritten: boolean,
): string[] {
  const names = new Set<string>();
  if (isWritten)
    for (const element of nativeDocument.querySelectorAll(withHandler))
      for (const text of textsOf(element))
        for (const [, , name = ''] of text.matchAll(/(["'])([^"']{1,80})\1/g)) names.add(name);
  const isNamed = (image: HTMLImageElement) =>
    ['id', 'name'].some((attribute) => names.has(native(image).getAttribute(attribute) ?? ''));
  return images
    .filter(
      (image) =>
        selectors.some((each) => isFound(image, each)) ||
        isNamed(image) ||
        isCopied(image) ||
        textsOf(image).some((text) => /\bthis\.src\s*=(?!=)/.test(text)),
    )
    .map(nodeName);
}

/** What only looks like a selector finds nothing. */
function isFound(element: Element, selector: string): boolean {
  try {
    return native(element).matches(selector);
  } catch {
    return false;
  }
}
