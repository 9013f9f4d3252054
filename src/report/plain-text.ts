import { obeyedCharacters } from './obeyed-characters.js';

/**
 * Page content is hostile text: control characters could move the cursor, change colours or turn the reading direction.
 * Here they become visible escapes. Tabs and line breaks stay where `multiline` allows them.
 */
export function plainText(text: string, multiline = false): string {
  const kept = multiline ? /[\t\n]/ : /(?!)/;
  return text.replace(obeyed, (character) =>
    kept.test(character) ? character : `\\u{${character.charCodeAt(0).toString(16)}}`,
  );
}

const obeyed = new RegExp(`[\\u0000-\\u001f${obeyedCharacters}]`, 'g');
