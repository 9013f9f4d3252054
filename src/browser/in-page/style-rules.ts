import { allContainersHold, type ContainerCondition } from './container-conditions.js';
import { native, nativeDocument } from './native.js';

/** A rule of a sheet that this page may read. */
interface ReadRule {
  /** As the rule that the declarations stand in is written. */
  selector: string;
  /** What it matches, with the selectors of the rules around it. CSS Nesting Module, section 3 "Nesting Style Rules". */
  whole: string;
  style: CSSStyleDeclaration;
  /** Of the containers around an element: what must hold for each. */
  containers: readonly ContainerCondition[];
}

type Around = Omit<ReadRule, 'style'>;

const nothingAround: Around = { selector: '', whole: '', containers: [] };

let known: ReadRule[] | undefined;

/** All rules that apply in this window, in the order of the sheets. Sheets of other origins cannot be read. */
export function readRules(): readonly ReadRule[] {
  return (known ??= [...nativeDocument.styleSheets].flatMap((sheet) => rulesOfSheet(sheet, nothingAround)));
}

/** A page's sheets may have changed since. */
export function forgetRules(): void {
  known = undefined;
}

/** Whether a rule gives its declarations to an element, now. */
export const appliesTo = (element: Element, { whole, containers }: ReadRule): boolean =>
  matches(element, whole) && allContainersHold(element, containers);

const holdsInWindow = ({ mediaText }: MediaList) => mediaText === '' || matchMedia(mediaText).matches;

function rulesOfSheet(sheet: CSSStyleSheet | null, around: Around): ReadRule[] {
  if (!sheet || sheet.disabled || !holdsInWindow(sheet.media)) return [];
  return rulesOf(() => sheet.cssRules, around);
}

function rulesOf(list: () => CSSRuleList, around: Around): ReadRule[] {
  try {
    return [...list()].flatMap((rule) => rulesIn(rule, around));
  } catch {
    // Of another origin, or not there yet.
    return [];
  }
}

function rulesIn(rule: CSSRule, around: Around): ReadRule[] {
  if (rule instanceof CSSStyleRule) {
    const selector = rule.selectorText;
    const own = { ...around, selector, whole: nestedIn(around.whole, selector) };
    return [{ ...own, style: rule.style }, ...rulesOf(() => rule.cssRules, own)];
  }
  if (rule instanceof CSSImportRule)
    return holdsInWindow(rule.media) ? rulesOfSheet(rule.styleSheet, around) : [];
  if ('CSSNestedDeclarations' in window && rule instanceof CSSNestedDeclarations)
    return [{ ...around, style: rule.style }];
  if (rule instanceof CSSMediaRule && !holdsInWindow(rule.media)) return [];
  if (rule instanceof CSSSupportsRule && !CSS.supports(rule.conditionText)) return [];
  if (rule instanceof CSSStartingStyleRule || !(rule instanceof CSSGroupingRule)) return [];
  const { containers } = around;
  return rulesOf(() => rule.cssRules, {
    ...around,
    containers: rule instanceof CSSContainerRule ? [...containers, conditionOf(rule)] : containers,
  });
}

const conditionOf = ({ containerName, containerQuery }: CSSContainerRule): ContainerCondition =>
  `${containerName} ${containerQuery}`.trim();

/** A selector with the one around it in the place of each `&`. */
function nestedIn(around: string, selector: string): string {
  if (around === '') return selector;
  return selector.includes('&') ? selector.replaceAll('&', `:is(${around})`) : `:is(${around}) ${selector}`;
}

/** Whether an element is matched by a rule's selector; one that cannot be read matches nothing. */
export function matches(element: Element, selector: string): boolean {
  try {
    return native(element).matches(selector);
  } catch {
    return false;
  }
}
