import type { ChainLink } from './protocol.js';

/**
 * A CSS selector that matches only this element: child steps from the nearest ancestor with an id of its own, or
 * from `html`. Classes are left out because scripts change them between visits.
 */
export function uniqueSelector(element: Element): string {
  const steps: string[] = [];
  for (let node: Element | null = element; node; node = node.parentElement) {
    const id = node.id;
    if (id && /^[A-Za-z][\w-]*$/.test(id) && node.ownerDocument.querySelectorAll(`#${id}`).length === 1) {
      steps.unshift(`#${id}`);
      break;
    }
    steps.unshift(step(node));
    if (node === node.ownerDocument.body) break;
  }
  return steps.join(' > ');
}

function step(element: Element): string {
  const name = CSS.escape(element.localName);
  const parent = element.parentElement;
  if (!parent) return name;
  let position = 0;
  let count = 0;
  for (const sibling of parent.children) {
    if (sibling.localName !== element.localName) continue;
    count++;
    if (sibling === element) position = count;
  }
  return count > 1 ? `${name}:nth-of-type(${position})` : name;
}

/** Ancestors from `body` down to the parent, with their classes. */
export function ancestorChain(element: Element): ChainLink[] {
  const chain: ChainLink[] = [];
  for (let node = element.parentElement; node; node = node.parentElement) {
    chain.unshift({ tag: node.localName, classes: [...node.classList] });
    if (node === node.ownerDocument.body) break;
  }
  return chain;
}
