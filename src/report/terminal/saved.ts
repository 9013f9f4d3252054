import { bytesInWords } from '../../core/wording/words.js';
import { signed } from '../cut-names.js';
import type { TextPage } from './layout.js';

/** What stands at the end of a line that saves bytes, or costs some. */
export const savedInWords = (bytes: number, { paint }: TextPage): string =>
  bytes < 0 ? paint.yellow(signed(bytes, bytesInWords)) : paint.green.bold(bytesInWords(bytes));
