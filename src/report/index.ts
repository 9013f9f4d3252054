export { runAsJson } from './json.js';
export { plainText } from './plain-text.js';
export { terminalReport, type TerminalOptions } from './terminal/report.js';
export { weighAsJson } from './weigh-json.js';
export { weighReport, type WeighedEntry } from './terminal/weigh-report.js';
export { whyAsJson } from './why-json.js';
export { whyReport } from './terminal/why-report.js';
export { sizesAsJson } from './sizes-json.js';
export { sizesReport, type SizesEntry } from './terminal/sizes-report.js';
