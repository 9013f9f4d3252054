import { causesOf, type CauseSetting } from '../../core/plan/causes.js';
import type { Run } from '../../core/run/index.js';
import { count, group } from '../../core/wording/words.js';
import { cutNames } from '../cut-names.js';
import type { TextPage } from './layout.js';
import { savedInWords } from './saved.js';

/** The bytes of all fixes by cause: often one line in a build. */
export function causeReport(page: TextPage, run: Readonly<Run>): void {
  const { paint } = page;
  const causes = causesOf(run);
  if (causes.length === 0) {
    page.text(paint.bold('Nothing that saves bytes was found.'));
    return;
  }
  page.ends(paint.bold('Causes'), paint.bold('saved per average visit'));
  for (const { kind, expected, pictures, pages, settings } of causes) {
    page.blank();
    page.ends(
      paint.bold(`${cutNames[kind] ?? kind}: ${count(pictures, 'picture')} on ${count(pages, 'page')}`),
      savedInWords(expected, page),
    );
    for (const setting of settings) page.text(settingInWords(setting), 4);
  }
}

function settingInWords({ format, quality, files }: CauseSetting): string {
  const range =
    quality === null
      ? ''
      : quality[0] === quality[1]
        ? ` quality ${group(quality[0])}`
        : ` quality ${group(quality[0])} to ${group(quality[1])}`;
  return `${format.toUpperCase()}${range}: ${count(files, 'file')} to make`;
}
