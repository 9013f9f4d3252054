/**
 * Page content is hostile text: control characters could move the cursor, change colours or turn the reading direction.
 * Here they become visible escapes. Tabs and line breaks stay where `multiline` allows them.
 */
export function plainText(text: string, multiline = false): string {
  // Control characters are what this looks for.
  /* eslint-disable no-control-regex */
  const kept = multiline ? /[\t\n]/ : /(?!)/;
  return text.replace(
    /[\u0000-\u001f\u007f-\u009f\u200e\u200f\u2028-\u202e\u2066-\u2069\ufeff]/g,
    (character) => (kept.test(character) ? character : `\\u{${character.charCodeAt(0).toString(16)}}`),
  );
}
