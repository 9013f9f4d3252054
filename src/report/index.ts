export { runAsJson } from './json.js';
export { plainText } from './plain-text.js';
export { terminalReport, type TerminalOptions } from './terminal/report.js';
