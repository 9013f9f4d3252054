import type { PhrasingContent, RootContent } from 'mdast';
import type { Fix, Run } from '../core/run/index.js';
import { bytesInWords, count, percent } from '../core/wording/words.js';
import {
  amount,
  fileInWords,
  isAllAsked,
  placeInWords,
  reasonsOf,
  savingsInWords,
  surenessInWords,
} from './fix-words.js';
import { againInWords, guessesInWords } from './again-words.js';
import { shownEdits } from './shown-edits.js';
import { readInWords } from './read-words.js';
import { asMarkdown, block, code, paragraph, table, text, title } from './markdown-parts.js';

/** As much as a review comment of the common hosts holds, with room for a line of one’s own. */
export const usualCharacters = 60_000;
/** Less says nothing. */
export const leastCharacters = 500;

/**
 * A run as Markdown (CommonMark 0.31 with the tables of GitHub Flavored Markdown) that fits a review comment: the first fixes whole, the
 * others as a table, cut where there is no more room. Texts of pages cannot leave their place: they are code, or escaped.
 * @param most characters, at least 500
 */
export function runAsMarkdown(run: Readonly<Run>, most = usualCharacters): string {
  for (const { whole, rows } of shrinking(run.fixes.length)) {
    const text = asMarkdown(compose(run, whole, rows));
    if (text.length <= most) return text;
  }
  const least = asMarkdown([heading(run), ...totals(run)]);
  return least.length <= most ? least : `${asMarkdown([heading(run)]).slice(0, most)}`;
}

/** From ten whole fixes and all others in a table down to nothing. */
function* shrinking(fixes: number): Generator<{ whole: number; rows: number }> {
  for (let whole = Math.min(10, fixes); whole >= 1; whole--) yield { whole, rows: fixes };
  for (let rows = fixes; rows >= 1; rows = Math.floor(rows / 2)) yield { whole: 0, rows };
}

function compose(run: Readonly<Run>, whole: number, rows: number): RootContent[] {
  const ranked = run.fixes.map((fix, index) => ({ fix, rank: index + 1 }));
  const others = ranked.slice(whole, whole + rows);
  const hidden = ranked.length - whole - others.length;
  return [
    heading(run),
    ...totals(run),
    ...(ranked.length === 0 ? [paragraph(text('Nothing to fix was found.'))] : []),
    ...ranked.slice(0, whole).flatMap(({ fix, rank }) => wholeFix(run, fix, rank)),
    ...(others.length > 0 ? [title(3, text(whole > 0 ? 'Further fixes' : 'Fixes')), fixTable(others)] : []),
    ...(hidden > 0 ? [paragraph(text(`${count(hidden, 'more fix', 'more fixes')} in the run file.`))] : []),
    ...paidAgain(run),
    ...readPages(run),
    ...unseen(run),
  ];
}

const heading = (run: Readonly<Run>) =>
  title(
    2,
    text('Images of '),
    code(run.site.name),
    text(`: ${count(run.pages.length, 'page')} on ${count(run.screens.length, 'screen')}`),
  );

function totals({ totals: { screens, average } }: Readonly<Run>): RootContent[] {
  const share =
    average.expected > 0
      ? ` (${percent((average.expected - average.expectedAfter) / average.expected)})`
      : '';
  return [
    paragraph(
      text(
        `An average visit downloads ${bytesInWords(average.expected)} of images and needs ${bytesInWords(average.expectedAfter)}: the fixes save ${bytesInWords(average.expected - average.expectedAfter)}${share}.`,
      ),
    ),
    table(
      ['screen', 'first view', 'whole page', 'expected', 'needed'],
      screens.map((each) => [
        [code(each.screen)],
        ...[each.firstView, each.whole, each.expected, each.expectedAfter].map((bytes) => [
          text(bytesInWords(bytes)),
        ]),
      ]),
    ),
  ];
}

const mostPlaces = 5;
const mostFiles = 8;

function wholeFix(run: Readonly<Run>, fix: Fix, rank: number): RootContent[] {
  const edits = shownEdits(fix);
  // A text that several pages show stands in one place.
  const distinct = [...new Set(fix.places.map(placeInWords))];
  const places = distinct
    .slice(0, mostPlaces)
    .flatMap((place, index): PhrasingContent[] => [...(index > 0 ? [text(', ')] : []), code(place)]);
  const files = fix.files
    .slice(0, mostFiles)
    .flatMap((file, index): PhrasingContent[] => [
      ...(index > 0 ? [text(', ')] : []),
      code(fileInWords(file)),
    ]);
  return [
    title(3, text(`${rank}. ${fix.title} — ${savedInWords(fix)}`)),
    {
      type: 'list',
      ordered: false,
      spread: false,
      children: reasonsOf(fix, run).map((says) => ({
        type: 'listItem',
        spread: false,
        children: [paragraph(text(says))],
      })),
    },
    paragraph(text('Where: '), ...places, ...more(distinct.length - mostPlaces, 'more place')),
    ...(fix.saves.expected === 0
      ? []
      : [paragraph(text(`Saves ${savingsInWords(fix)}. How sure: ${surenessInWords(fix)}.`))]),
    ...edits.flatMap(({ before, after }): RootContent[] =>
      after === ''
        ? [paragraph(text('Remove:')), block(before)]
        : [paragraph(text(fix.kind === 'hand' ? 'By hand:' : 'Write:')), block(after)],
    ),
    ...(files.length > 0
      ? [
          paragraph(
            text(isAllAsked(fix) ? 'Ask for: ' : 'Make: '),
            ...files,
            ...more(fix.files.length - mostFiles, 'more file'),
          ),
        ]
      : []),
  ];
}

const savedInWords = ({ saves: { expected }, kind }: Fix) =>
  expected === 0 ? (kind === 'hand' ? 'by hand' : 'no bytes') : amount(expected);

const more = (left: number, what: string) => (left > 0 ? [text(` and ${count(left, what)}`)] : []);

function fixTable(fixes: readonly { fix: Fix; rank: number }[]): RootContent {
  return table(
    ['', 'fix', 'places', 'saved per visit', 'id'],
    fixes.map(({ fix, rank }) => [
      [text(String(rank))],
      [text(fix.title)],
      [text(String(fix.places.length))],
      [text(savedInWords(fix))],
      [code(fix.id)],
    ]),
  );
}

/** How many pages were read instead of visited, and how well that agrees. */
function readPages(run: Readonly<Run>): RootContent[] {
  const read = readInWords(run);
  return read ? [paragraph(text(read.summary))] : [];
}

/** What visits that come back pay, and which hosts seem to resize. */
function paidAgain(run: Readonly<Run>): RootContent[] {
  const again = againInWords(run);
  const told = again === undefined ? [] : [again];
  return [...told, ...guessesInWords(run)].map((each) => paragraph(text(each)));
}

function unseen({ incomplete }: Readonly<Run>): RootContent[] {
  if (incomplete.length === 0) return [];
  const [{ page, why } = { page: '', why: '' }] = incomplete;
  return [
    paragraph(
      text(
        `Incomplete: ${count(incomplete.length, 'visit or file', 'visits or files')} could not be seen whole, such as `,
      ),
      code(page === '' ? 'the whole site' : page),
      text(`: ${why}`),
    ),
  ];
}
