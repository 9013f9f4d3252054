/** Longer texts (pictures that are written into a page) are seldom met twice, and are not remembered. */
const longestShared = 2000;

/**
 * One copy of each text. What thousands of pages have in common takes its room once then; and a piece that was cut out of a page does not hold on
 * to the whole page, as it does while it is a view of it.
 */
export class SharedTexts {
  readonly #texts = new Map<string, string>();

  /** The copy of a text that all share. */
  of(text: string): string {
    const known = this.#texts.get(text);
    if (known !== undefined) return known;
    // Written anew, so that it is no view of another.
    const own = JSON.parse(JSON.stringify(text)) as string;
    if (own.length <= longestShared) this.#texts.set(own, own);
    return own;
  }

  /** Puts the shared copies in the place of the texts in a value: in its lists and plain objects, however deep, but not in their names. */
  shareIn<Value>(value: Value): Value;
  shareIn(value: unknown): unknown {
    if (typeof value === 'string') return this.of(value);
    if (isNested(value)) for (const name of Object.keys(value)) value[name] = this.shareIn(value[name]);
    return value;
  }
}

function isNested(value: unknown): value is Record<string, unknown> {
  if (typeof value !== 'object' || value === null) return false;
  return Array.isArray(value) || Object.getPrototypeOf(value) === Object.prototype;
}
