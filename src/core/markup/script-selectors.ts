/** So many are enough: a page that has more of them was made by a tool, and they tell nothing. */
const most = 200;

/** Texts between quotes, whichever; longer ones are no selectors. In short code that nobody laid out the text between two strings is taken too. */
const quoted = [
  /(?<=["'`])[^"'`\n\\{};<]{3,160}(?=["'`])/g,
  /(?<=(["'`]))(?:(?!\1)[^\n\\{};<]){3,160}(?=\1)/g,
];

/** What stands directly in, beside, or at which place in something. Selectors Level 4, sections 13.4 and 15. */
const structural = /[\w\])*]\s*[>+~]\s*[\w.#*[:]|:(nth-|first-|last-|only-)/;

/** What is found at the end is named: any first child, or any element beside another, is looked for by tools in pages of all kinds. */
const named = /(^|[\s>+~])(img\b|[\w-]*[.#[])[^>+~]*$/;

/**
 * The selectors in the text of a script that would find other elements once an element around one of them is new. What only looks like a
 * selector may be among them: it finds nothing.
 */
export function structuralSelectors(script: string): string[] {
  const found = new Set<string>();
  for (const pattern of quoted)
    for (const [text] of script.matchAll(pattern)) {
      if (found.size === most) return [...found];
      if (structural.test(text) && named.test(text)) found.add(text.trim());
    }
  return [...found];
}
