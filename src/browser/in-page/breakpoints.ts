import { nativeDocument } from './native.js';
/** Widths in media conditions; em counts against the initial font size there. */
const lengths = /(\d*\.?\d+)(px|em|rem)/g;
const initialFontSize = 16;

function lengthsIn(text: string, found: Set<number>): void {
  for (const [, value, unit] of text.matchAll(lengths))
    found.add(Number(value) * (unit === 'px' ? 1 : initialFontSize));
}

function readRules(rules: CSSRuleList, found: Set<number>): void {
  for (const rule of rules) {
    if (rule instanceof CSSMediaRule) lengthsIn(rule.conditionText, found);
    if (rule instanceof CSSImportRule) {
      lengthsIn(rule.media.mediaText, found);
      if (rule.styleSheet) readSheet(rule.styleSheet, found);
    }
    if ('cssRules' in rule) readRules((rule as CSSGroupingRule).cssRules, found);
  }
}

function readSheet(sheet: CSSStyleSheet, found: Set<number>): void {
  lengthsIn(sheet.media.mediaText, found);
  try {
    readRules(sheet.cssRules, found);
  } catch {
    // The rules of another origin's sheet cannot be read; bisection finds what they do.
  }
}

/** Viewport widths that style sheets and `source` elements name, ascending, CSS px. */
export function breakpoints(): number[] {
  const found = new Set<number>();
  for (const sheet of nativeDocument.styleSheets) readSheet(sheet, found);
  for (const { media } of nativeDocument.querySelectorAll('source')) lengthsIn(media, found);
  return [...found].sort((a, b) => a - b);
}
