export * from './types.js';
export { shorten, wholeRun, type Alike } from './alike.js';
export { RunFormatError } from './errors.js';
export { runFromLines } from './from-lines.js';
export { readRun, runSchema } from './schema.js';
export { runJsonSchema, runSchemaId } from './json-schema.js';
export { defaultScreens, parseScreen, ScreenError, shareOut } from './screens.js';
