import { native, nativeDocument } from './native.js';
/** A rule of a sheet that this page may read. */
interface ReadRule {
  selector: string;
  style: CSSStyleDeclaration;
}

let known: ReadRule[] | undefined;

/** All rules that apply in this window, in the order of the sheets. Sheets of other origins cannot be read. */
export function readRules(): readonly ReadRule[] {
  return (known ??= [...nativeDocument.styleSheets].flatMap((sheet) => rulesOf(() => sheet.cssRules)));
}

/** A page's sheets may have changed since. */
export function forgetRules(): void {
  known = undefined;
}

function rulesOf(list: () => CSSRuleList): ReadRule[] {
  try {
    return [...list()].flatMap((rule): ReadRule[] => {
      if (rule instanceof CSSStyleRule)
        return [{ selector: rule.selectorText, style: rule.style }, ...rulesOf(() => rule.cssRules)];
      if (rule instanceof CSSMediaRule && !matchMedia(rule.media.mediaText).matches) return [];
      if (rule instanceof CSSImportRule) return rulesOf(() => (rule.styleSheet as CSSStyleSheet).cssRules);
      return rule instanceof CSSGroupingRule ? rulesOf(() => rule.cssRules) : [];
    });
  } catch {
    // Of another origin, or not there yet.
    return [];
  }
}

/** Whether an element is matched by a rule's selector; one that cannot be read matches nothing. */
export function matches(element: Element, selector: string): boolean {
  try {
    return native(element).matches(selector);
  } catch {
    return false;
  }
}
