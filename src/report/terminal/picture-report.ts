import { tasksByPicture } from '../../core/reporting/by-picture.js';
import type { Run } from '../../core/run/index.js';
import { count, group, listed } from '../../core/wording/words.js';
import { fileInWords, placeInWords } from '../fix-words.js';
import { plainText } from '../plain-text.js';
import type { TextPage } from './layout.js';
import { savedInWords } from './saved.js';

const mostTexts = 3;
const mostPlaces = 3;

/** Every picture with its final tag and all files to make, as somebody mends it in one go; those that save most first. */
export function pictureReport(page: TextPage, run: Readonly<Run>, most: number): void {
  const { paint } = page;
  const tasks = tasksByPicture(run);
  if (tasks.length === 0) {
    page.text(paint.bold('No picture has anything to fix.'));
    return;
  }
  page.ends(paint.bold('Pictures'), paint.bold('saved per average visit'));
  for (const { picture, saves, fixes, checks, files, texts } of tasks.slice(0, most)) {
    page.blank();
    page.ends(
      paint.bold(plainText(picture === '' ? '(no file)' : picture)),
      saves === 0 ? paint.dim('no bytes') : savedInWords(saves, page),
    );
    const field = (name: string, text: string) => page.text(text, 11, `    ${paint.dim(name)}`);
    field('why', checks.join(', '));
    field('fixes', listed(fixes.map(({ id, rank }) => `${rank} (${id})`)));
    for (const { after, places } of texts.slice(0, mostTexts)) {
      const named = places.slice(0, mostPlaces).map(placeInWords);
      const more = places.length - named.length;
      field('at', named.join(', ') + (more > 0 ? ` and ${group(more)} more` : ''));
      page.verbatim(paint.cyan(plainText(after, true)), 6);
    }
    if (texts.length > mostTexts)
      field('', `${count(texts.length - mostTexts, 'more text')} in the run file.`);
    if (files.length > 0) field('make', files.map(fileInWords).join(', '));
  }
  if (tasks.length > most) {
    page.blank();
    page.text(`${count(tasks.length - most, 'more picture')}: show them with --limit ${tasks.length}.`);
  }
}
