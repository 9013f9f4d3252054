const ids = new WeakMap<Element, number>();
let next = 1;

/** A name of an element that it keeps for as long as the page is open, whatever scripts insert around it. */
export function nodeName(element: Element): string {
  const known = ids.get(element);
  if (known !== undefined) return String(known);
  ids.set(element, next);
  return String(next++);
}
