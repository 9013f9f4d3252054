import { obeyedCharacters } from './obeyed-characters.js';

/** JSON itself escapes the first 32. RFC 8259, section 7. */
const obeyed = new RegExp(`[${obeyedCharacters}]`, 'g');

const escaped = (json: string) =>
  json.replace(obeyed, (character) => `\\u${character.charCodeAt(0).toString(16).padStart(4, '0')}`);

/** A value as JSON that is safe on a terminal: the same value for whoever reads it. RFC 8259, section 7. */
export const asJson = (value: unknown): string => `${escaped(JSON.stringify(value, null, 1))}\n`;

/** The same on one line, without its end. */
export const asJsonLine = (value: unknown): string => escaped(JSON.stringify(value));
