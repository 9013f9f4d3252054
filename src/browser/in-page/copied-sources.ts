import { isOwnAttribute } from '../../core/markup/own-attributes.js';
import { native, nativeDocument } from './native.js';

/** Images into whose `src` a script wrote while they stood there already, by the addresses. */
const written = new Map<string, Set<HTMLImageElement>>();

/** An image that a script put somewhere. */
interface Put {
  image: HTMLImageElement;
  /** Whether it was put there by itself, not within what it stands in. */
  alone: boolean;
}

/** By their addresses. */
const put = new Map<string, Put[]>();

/** A page that puts more images somewhere does so again and again. */
const mostPut = 2000;
let count = 0;

function noteWritten(image: HTMLImageElement): void {
  const src = image.getAttribute('src');
  // What loads lazily takes the address from the element itself.
  const holdsIt = image
    .getAttributeNames()
    .some((name) => name !== 'src' && image.getAttribute(name) === src);
  if (src === null || holdsIt) return;
  const all = written.get(image.src) ?? new Set();
  written.set(image.src, all.add(image));
}

function remember(address: string, one: Put): void {
  const all = put.get(address) ?? [];
  all.push(one);
  put.set(address, all);
}

function notePut(node: Node): void {
  if (!(node instanceof Element)) return;
  const alone = node instanceof HTMLImageElement;
  for (const image of alone ? [node] : native(node).querySelectorAll('img'))
    if (image.hasAttribute('src') && count++ < mostPut) remember(image.src, { image, alone });
}

const writes = new MutationObserver((records) => {
  for (const { target } of records) if (target instanceof HTMLImageElement) noteWritten(target);
});
writes.observe(document, { subtree: true, attributes: true, attributeFilter: ['src'] });

const additions = new MutationObserver((records) => {
  for (const { addedNodes } of records) addedNodes.forEach(notePut);
});
// Before that images are put there as the page is read.
nativeDocument.addEventListener('readystatechange', () => {
  if (nativeDocument.readyState === 'interactive')
    additions.observe(document, { subtree: true, childList: true });
});

/**
 * Whether a script takes the address out of an image for another one, as slides and galleries do, or moves or copies it without what it stands in: what is
 * written beside `src`, or around the image, would not come along.
 */
export function isCopied(image: HTMLImageElement): boolean {
  if (!image.hasAttribute('src')) return false;
  if (written.has(image.src)) return true;
  const own = image.getAttributeNames().filter(isOwnAttribute);
  return (put.get(image.src) ?? []).some(
    (other) => other.alone || (other.image !== image && own.some((name) => !other.image.hasAttribute(name))),
  );
}

/** A script that writes one address into more images says nothing of them: it is that of a sign, or of what stands in for others. */
const mostReceivers = 20;

/** Images that got the address of another one, written into their `src`, or as they were put somewhere. */
export function receiversOf(image: HTMLImageElement): HTMLImageElement[] {
  const some = [
    ...first(written.get(image.src) ?? []),
    ...first(put.get(image.src) ?? []).map((one) => one.image),
  ];
  return [...new Set(some)].filter((other) => other !== image);
}

function first<Each>(all: Iterable<Each>): Each[] {
  const some: Each[] = [];
  for (const each of all) {
    if (some.length === mostReceivers) break;
    some.push(each);
  }
  return some;
}
