import { native, nativeDocument } from './native.js';

/** A length of a source-size list and the condition before it, empty for none. */
interface ClaimedWidth {
  condition: string;
  length: string;
}

/** Parts of a text between separators that stand in no parentheses. */
function outsideParentheses(text: string, separator: RegExp): string[] {
  const parts = [''];
  let depth = 0;
  for (const character of text) {
    if (character === '(') depth++;
    else if (character === ')') depth--;
    if (depth === 0 && separator.test(character)) parts.push('');
    else parts[parts.length - 1] += character;
  }
  return parts.map((part) => part.trim()).filter((part) => part !== '');
}

/** The entries of a `sizes` attribute. HTML standard, 2.4.7.4 "Sizes attributes". */
const claimedWidths = (sizes: string): ClaimedWidth[] =>
  outsideParentheses(sizes, /,/).map((entry) => {
    const words = outsideParentheses(entry, /\s/);
    return { condition: words.slice(0, -1).join(' '), length: words.at(-1) ?? '' };
  });

/** Lengths of fonts are the page's own there and the image's here. */
const ofFonts = /\d(r?em|r?ex|r?ch|r?lh|r?ic|r?cap)\b/i;

const mark = 'data-claimed-width';
let marked = 0;

/**
 * Gives an image by a style the width that its `sizes` claims, at each width of the viewport: it has that already, but only once the file of
 * a new claim has come.
 * @returns false where the list says nothing that a style can say too
 */
export function claimByStyle(image: HTMLImageElement, sizes: string): boolean {
  const widths = claimedWidths(sizes);
  if (
    widths.length === 0 ||
    widths.some(({ length }) => !CSS.supports('width', length) || ofFonts.test(length))
  )
    return false;
  const root = native(image).getRootNode();
  if (!(root instanceof Document || root instanceof ShadowRoot)) return false;
  image.setAttribute(mark, String(++marked));
  // The first that holds counts, and of rules the last.
  const rules = widths.reverse().map(({ condition, length }) => {
    const rule = `[${mark}="${marked}"] { width: ${length} !important }`;
    return condition === '' ? rule : `@media ${condition} { ${rule} }`;
  });
  const sheet = new CSSStyleSheet();
  sheet.replaceSync(rules.join('\n'));
  const holder = root === document ? nativeDocument : root;
  holder.adoptedStyleSheets = [...holder.adoptedStyleSheets, sheet];
  return true;
}
