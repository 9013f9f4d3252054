import { nativeDocument } from './native.js';

/** The name of a container, where one is asked for, and the query, as they stand behind `@container`. */
export type ContainerCondition = string;

/** Properties of our own that say whether a condition holds for an element; they are not inherited. */
const prefix = '--yukkuri-container-';

/** By condition: the property that tells. */
const properties = new Map<ContainerCondition, string>();
let asked: CSSStyleSheet | undefined;

/**
 * Whether every one of these conditions holds for an element. Only the browser knows which box is the container that is asked, and how large it
 * is: a sheet of our own asks it, and is gone before the page goes on. CSS Containment Module Level 3, section 3 "Container Queries".
 */
export function allContainersHold(element: Element, conditions: readonly ContainerCondition[]): boolean {
  if (conditions.length === 0) return true;
  for (const condition of conditions) ask(condition);
  const style = getComputedStyle(element);
  return conditions.every(
    (condition) => style.getPropertyValue(properties.get(condition) ?? '').trim() !== '',
  );
}

function ask(condition: ContainerCondition): void {
  const sheet = (asked ??= openSheet());
  if (properties.has(condition)) return;
  const property = `${prefix}${properties.size}`;
  properties.set(condition, property);
  const rules = [
    `@property ${property} { syntax: "*"; inherits: false }`,
    `@container ${condition} { * { ${property}: 1 } }`,
  ];
  for (const rule of rules) sheet.insertRule(rule, sheet.cssRules.length);
}

function openSheet(): CSSStyleSheet {
  const sheet = new CSSStyleSheet();
  nativeDocument.adoptedStyleSheets = [...nativeDocument.adoptedStyleSheets, sheet];
  queueMicrotask(() => {
    nativeDocument.adoptedStyleSheets = nativeDocument.adoptedStyleSheets.filter((each) => each !== sheet);
    asked = undefined;
    properties.clear();
  });
  return sheet;
}
