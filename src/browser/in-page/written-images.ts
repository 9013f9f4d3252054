import { isCopied, receiversOf } from './copied-sources.js';
import { nodeName } from './identity.js';
import { native, nativeDocument } from './native.js';
import type { SourceScripts, WrittenImage } from './protocol.js';

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

/** The texts of the page's own scripts, of the data that they read, and of its attributes for events. */
export function scriptTexts(): string[] {
  const inline = [...nativeDocument.scripts]
    .filter(({ src, type }) => src === '' && /^(|module|.*javascript|application\/json)$/i.test(type))
    .map(({ text }) => text);
  const attributes = [...nativeDocument.querySelectorAll(withHandler)].flatMap(textsOf);
  return [...inline, ...new Set(attributes)];
}

/**
 * Images whose `src` is written by what is to happen on the page: those that selectors find, those that write their own, and, where anything writes `src`
 * at all, those whose id or name stands in such an attribute; those whose `src` a script copies into others; and those that are clicked on where a script
 * copies any.
 */
export function writtenImages(
  images: readonly HTMLImageElement[],
  { selectors, write, copy }: SourceScripts,
): WrittenImage[] {
  const names = new Set<string>();
  if (write)
    for (const element of nativeDocument.querySelectorAll(withHandler))
      for (const text of textsOf(element))
        for (const [, , name = ''] of text.matchAll(/(["'])([^"']{1,80})\1/g)) names.add(name);
  const isNamed = (image: HTMLImageElement) =>
    ['id', 'name'].some((attribute) => names.has(native(image).getAttribute(attribute) ?? ''));
  return images.flatMap((image): WrittenImage[] => {
    const enlarged = copy && isClickedOn(image);
    const isWritten =
      enlarged ||
      selectors.some((each) => isFound(image, each)) ||
      isNamed(image) ||
      isCopied(image) ||
      textsOf(image).some((text) => /\bthis\.src\s*=(?!=)/.test(text));
    const receivers = isWritten ? receiversOf(image).map(nodeName) : [];
    return isWritten ? [{ node: nodeName(image), receivers, enlarged }] : [];
  });
}

/** Whether an image is there to be clicked on, and not a link to another page. */
function isClickedOn(image: HTMLImageElement): boolean {
  if (image.closest('a[href]:not([href^="#"], [href^="javascript:" i])')) return false;
  return (
    /^(pointer|zoom-in)$/.test(getComputedStyle(image).cursor) ||
    textsOf(image).some((text) => /\bthis\b(?!\.src\s*=)/.test(text))
  );
}

/** What only looks like a selector finds nothing. */
function isFound(element: Element, selector: string): boolean {
  try {
    return native(element).matches(selector);
  } catch {
    return false;
  }
}
