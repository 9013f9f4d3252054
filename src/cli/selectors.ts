import { compile } from 'css-select';

/** Whether a text is a CSS selector. */
export function isSelector(text: string): boolean {
  try {
    compile(text);
    return true;
  } catch {
    return false;
  }
}
