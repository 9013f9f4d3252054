import type { Fix, Run } from '../../core/run/index.js';
import { count, group } from '../../core/wording/words.js';
import { plainText } from '../plain-text.js';
import {
  fileInWords,
  isAllAsked,
  placeInWords,
  reasonsOf,
  savingsInWords,
  stepsInWords,
  surenessInWords,
} from '../fix-words.js';
import type { TextPage } from './layout.js';
import { savedInWords } from './saved.js';
import { shownEdits } from '../shown-edits.js';

const margin = 4;
const labelled = 11;

/** One fix: what is wrong, where, what it saves, what to write and what to make. */
export function fixReport(page: TextPage, run: Readonly<Run>, fix: Fix, rank: number): void {
  const { paint } = page;
  const { expected } = fix.saves;
  const saved =
    expected === 0 ? paint.dim(fix.kind === 'hand' ? 'by hand' : 'no bytes') : savedInWords(expected, page);
  page.ends(
    `${paint.bold(`${rank}.`.padEnd(margin))}${paint.bold(plainText(fix.title))} ${paint.dim(fix.id)}`,
    saved,
  );
  const field = (name: string, text: string) =>
    page.text(text, labelled, `${' '.repeat(margin)}${paint.dim(name)}`);
  for (const says of reasonsOf(fix, run)) field('why', plainText(says));
  field('where', placesInWords(fix));
  if (expected !== 0) {
    field('saves', savingsInWords(fix));
    if (fix.steps.length > 1) field('steps', stepsInWords(fix));
    field('sure', surenessInWords(fix));
  }
  for (const edit of shownEdits(fix)) {
    page.text(paint.dim(fix.kind === 'hand' ? 'by hand' : edit.after === '' ? 'remove' : 'write'), margin);
    page.verbatim(paint.cyan(plainText(edit.after === '' ? edit.before : edit.after, true)), margin + 2);
  }
  const others = othersInWords(fix);
  if (others !== undefined) field('others', others);
  if (fix.files.length > 0)
    field(
      isAllAsked(fix) ? 'ask' : 'make',
      fix.files.slice(0, mostFiles).map(fileInWords).join(', ') +
        more(fix.files.length - mostFiles, 'more file'),
    );
  for (const note of fix.notes.slice(0, mostNotes)) field('note', plainText(note));
  if (fix.notes.length > mostNotes)
    field('note', `${group(fix.notes.length - mostNotes)} more in the run file.`);
}

const mostFiles = 8;
const mostNotes = 4;
const mostPlaces = 4;
const mostOthers = 3;

const more = (amount: number, what: string) => (amount > 0 ? ` and ${count(amount, what)}` : '');

/** A text that several pages show stands in one place. */
function placesInWords({ places }: Fix): string {
  const distinct = [...new Set(places.map(placeInWords))];
  return distinct.slice(0, mostPlaces).join(', ') + more(distinct.length - mostPlaces, 'more place');
}

/** One text stands for several places: what each of the others takes instead of what it takes. */
function othersInWords({ places, edits, kind }: Fix): string | undefined {
  if (kind === 'hand') return undefined;
  const examples = new Set(edits.map(({ example }) => example));
  const changes = places
    .filter(({ placement }) => !examples.has(placement))
    .flatMap(({ takes }) => {
      const changed = Object.values(takes).find(({ before, after }) => before !== after && before !== null);
      return changed ? [`${plainText(changed.before ?? '')} → ${plainText(changed.after ?? 'nothing')}`] : [];
    });
  const distinct = [...new Set(changes)];
  if (distinct.length === 0) return undefined;
  return (
    distinct.slice(0, mostOthers).join(', ') +
    more(distinct.length - mostOthers, 'more image') +
    '; the whole text of each is in the run file'
  );
}
