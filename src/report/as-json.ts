/** What JSON leaves as it is, but a terminal obeys: later control characters, and those that turn the reading direction. */
const obeyed = /[\u007f-\u009f\u200e\u200f\u2028-\u202e\u2066-\u2069\ufeff]/g;

/** A value as JSON that is safe on a terminal: the same value for whoever reads it. RFC 8259, section 7. */
export const asJson = (value: unknown): string =>
  `${JSON.stringify(value, null, 1).replace(obeyed, (character) => `\\u${character.charCodeAt(0).toString(16).padStart(4, '0')}`)}\n`;
