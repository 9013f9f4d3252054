export * from './types.js';
export { shorten, wholeRun } from './alike.js';
export type { Alike } from './like-before.js';
export { RunFormatError } from './errors.js';
export { runFromLines } from './from-lines.js';
export { readRun, runSchema } from './schema.js';
export { runJsonSchema, runSchemaId } from './json-schema.js';
export { defaultScreens, parseScreen, ScreenError, shareOut } from './screens.js';
