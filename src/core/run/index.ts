export * from './types.js';
export { RunFormatError } from './errors.js';
export { readRun, runSchema } from './schema.js';
export { defaultScreens, parseScreen, ScreenError, shareOut } from './screens.js';
