/**
 * What terminals obey beside the first 32 characters, as a class of a regular expression: DEL, the later control characters, and what turns
 * the reading direction.
 */
export const obeyedCharacters = '\\u007f-\\u009f\\u200e\\u200f\\u2028-\\u202e\\u2066-\\u2069\\ufeff';
