import { native } from './native.js';
import type { ChainLink } from './protocol.js';

/** Between a host and what is in its shadow root. Not CSS: no selector reaches through there. */
const intoShadow = ' >> ';

type Root = Document | ShadowRoot;

/** Elements that a selector matches in the document and in all open shadow roots, in the order of the document. */
export function deepQuery(selector: string, root: Root = document): Element[] {
  if (!hasShadows(root)) return [...native(root).querySelectorAll(selector)];
  return [...native(root).querySelectorAll('*')].flatMap((element) => [
    ...(native(element).matches(selector) ? [element] : []),
    ...shadowsOf(element).flatMap((shadow) => deepQuery(selector, shadow)),
  ]);
}

/** The open shadow root of an element, if it has one. */
export const shadowsOf = (element: Element): ShadowRoot[] => {
  const { shadowRoot } = native(element);
  return shadowRoot ? [shadowRoot] : [];
};

/** Asked at every width of a sweep, so it makes no list of its own. */
function hasShadows(root: Root): boolean {
  for (const element of native(root).querySelectorAll('*'))
    if (native(element).shadowRoot !== null) return true;
  return false;
}

/**
 * A CSS selector that matches only this element: child steps from the nearest ancestor with an id of its own, or
 * from `body`. Classes are left out because scripts change them between visits. In a shadow root it follows the selector of
 * the host.
 */
export function uniqueSelector(element: Element): string {
  const root = native(element).getRootNode();
  const own = selectorWithin(element, root instanceof ShadowRoot ? root : native(element).ownerDocument);
  return root instanceof ShadowRoot ? `${uniqueSelector(root.host)}${intoShadow}${own}` : own;
}

function selectorWithin(element: Element, root: Root): string {
  const steps: string[] = [];
  for (let node: Element | null = element; node; node = native(node).parentElement) {
    const id = native(node).id;
    if (id && /^[A-Za-z][\w-]*$/.test(id) && native(root).querySelectorAll(`#${id}`).length === 1) {
      steps.unshift(`#${id}`);
      break;
    }
    steps.unshift(step(node));
    if (node === native(node).ownerDocument.body) break;
  }
  return steps.join(' > ');
}

/** The element that `uniqueSelector` named; undefined when it is gone. */
export function findElement(selector: string): Element | undefined {
  let root: Root = document;
  let found: Element | null = null;
  for (const part of selector.split(intoShadow)) {
    found = native(root).querySelector(part);
    if (!found) return undefined;
    root = native(found).shadowRoot ?? root;
  }
  return found ?? undefined;
}

function step(element: Element): string {
  const name = CSS.escape(native(element).localName);
  const parent = native(element).parentNode;
  const among = parent && siblingsIn(parent);
  const count = among?.counts.get(native(element).localName) ?? 1;
  return among && count > 1 ? `${name}:nth-of-type(${among.positions.get(element) ?? 0})` : name;
}

/** The children of an element: which of its kind each is, and how many there are of each kind. */
interface Siblings {
  positions: Map<Element, number>;
  counts: Map<string, number>;
}

/** Counted once for all children that are named in one go; forgotten before the page can change. */
let counted = new Map<Node, Siblings>();

function siblingsIn(parent: Node): Siblings | undefined {
  const known = counted.get(parent);
  if (known) return known;
  const children = native(parent as Element).children;
  if (!children) return undefined;
  const siblings: Siblings = { positions: new Map(), counts: new Map() };
  for (const child of children) {
    const { localName } = native(child);
    const position = (siblings.counts.get(localName) ?? 0) + 1;
    siblings.counts.set(localName, position);
    siblings.positions.set(child, position);
  }
  if (counted.size === 0) queueMicrotask(() => (counted = new Map()));
  counted.set(parent, siblings);
  return siblings;
}

/** The element around, out of a shadow root too. */
export const parentOf = (element: Element): Element | null => {
  const { parentNode } = native(element);
  if (parentNode instanceof ShadowRoot) return parentNode.host;
  return parentNode instanceof Element ? parentNode : null;
};

/** Ancestors from `body` down to the parent, with their classes; hosts of shadow roots among them. */
export function ancestorChain(element: Element): ChainLink[] {
  const chain: ChainLink[] = [];
  for (let node = parentOf(element); node; node = parentOf(node)) {
    chain.unshift({ tag: native(node).localName, classes: [...native(node).classList] });
    if (node === native(node).ownerDocument.body) break;
  }
  return chain;
}
