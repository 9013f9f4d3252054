/** What a browser is started and spoken to with: read only once one is needed, and no more of it than that. */
export { launch } from '@puppeteer/browsers';
export { Connection } from 'puppeteer-core';
