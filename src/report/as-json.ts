import { obeyedCharacters } from './obeyed-characters.js';

/** JSON itself escapes the first 32. RFC 8259, section 7. */
const obeyed = new RegExp(`[${obeyedCharacters}]`, 'g');

/** A value as JSON that is safe on a terminal: the same value for whoever reads it. RFC 8259, section 7. */
export const asJson = (value: unknown): string =>
  `${JSON.stringify(value, null, 1).replace(obeyed, (character) => `\\u${character.charCodeAt(0).toString(16).padStart(4, '0')}`)}\n`;
