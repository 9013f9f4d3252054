export * from './markup/index.js';
export * from './run/index.js';
