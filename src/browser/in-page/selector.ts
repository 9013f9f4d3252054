import type { ChainLink } from './protocol.js';

/** Between a host and what is in its shadow root. Not CSS: no selector reaches through there. */
const intoShadow = ' >> ';

type Root = Document | ShadowRoot;

/** Elements that a selector matches in the document and in all open shadow roots, in the order of the document. */
export function deepQuery(selector: string, root: Root = document): Element[] {
  if (!hasShadows(root)) return [...root.querySelectorAll(selector)];
  return [...root.querySelectorAll('*')].flatMap((element) => [
    ...(element.matches(selector) ? [element] : []),
    ...(element.shadowRoot ? deepQuery(selector, element.shadowRoot) : []),
  ]);
}

/** Asked at every width of a sweep, so it makes no list of its own. */
function hasShadows(root: Root): boolean {
  for (const { shadowRoot } of root.querySelectorAll('*')) if (shadowRoot !== null) return true;
  return false;
}

/**
 * A CSS selector that matches only this element: child steps from the nearest ancestor with an id of its own, or
 * from `body`. Classes are left out because scripts change them between visits. In a shadow root it follows the selector of
 * the host.
 */
export function uniqueSelector(element: Element): string {
  const root = element.getRootNode();
  const own = selectorWithin(element, root instanceof ShadowRoot ? root : element.ownerDocument);
  return root instanceof ShadowRoot ? `${uniqueSelector(root.host)}${intoShadow}${own}` : own;
}

function selectorWithin(element: Element, root: Root): string {
  const steps: string[] = [];
  for (let node: Element | null = element; node; node = node.parentElement) {
    const id = node.id;
    if (id && /^[A-Za-z][\w-]*$/.test(id) && root.querySelectorAll(`#${id}`).length === 1) {
      steps.unshift(`#${id}`);
      break;
    }
    steps.unshift(step(node));
    if (node === node.ownerDocument.body) break;
  }
  return steps.join(' > ');
}

/** The element that `uniqueSelector` named; undefined when it is gone. */
export function findElement(selector: string): Element | undefined {
  let root: Root = document;
  let found: Element | null = null;
  for (const part of selector.split(intoShadow)) {
    found = root.querySelector(part);
    if (!found) return undefined;
    root = found.shadowRoot ?? root;
  }
  return found ?? undefined;
}

function step(element: Element): string {
  const name = CSS.escape(element.localName);
  const siblings = element.parentNode?.children;
  if (!siblings) return name;
  let position = 0;
  let count = 0;
  for (const sibling of siblings) {
    if (sibling.localName !== element.localName) continue;
    count++;
    if (sibling === element) position = count;
  }
  return count > 1 ? `${name}:nth-of-type(${position})` : name;
}

/** The element around, out of a shadow root too. */
export const parentOf = (element: Element): Element | null => {
  const { parentNode } = element;
  if (parentNode instanceof ShadowRoot) return parentNode.host;
  return parentNode instanceof Element ? parentNode : null;
};

/** Ancestors from `body` down to the parent, with their classes; hosts of shadow roots among them. */
export function ancestorChain(element: Element): ChainLink[] {
  const chain: ChainLink[] = [];
  for (let node = parentOf(element); node; node = parentOf(node)) {
    chain.unshift({ tag: node.localName, classes: [...node.classList] });
    if (node === node.ownerDocument.body) break;
  }
  return chain;
}
