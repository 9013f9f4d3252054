import type { FileToMake, Fix, FixPlace, Run, SourcePosition } from '../../core/run/index.js';
import { bytesInWords, count, group, listed } from '../../core/wording/words.js';
import { plainText } from './plain-text.js';
import { cutNames, savedInWords, signed } from './cut-names.js';
import type { TextPage } from './layout.js';

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
  for (const edit of fix.edits) {
    if (edit.after === '' && edit.kind !== 'link') continue;
    if (edit.after === edit.before) continue;
    page.text(paint.dim(fix.kind === 'hand' ? 'by hand' : edit.after === '' ? 'remove' : 'write'), margin);
    page.verbatim(paint.cyan(plainText(edit.after === '' ? edit.before : edit.after, true)), margin + 2);
  }
  const others = othersInWords(fix);
  if (others !== undefined) field('others', others);
  if (fix.files.length > 0)
    field(
      'make',
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

/** What the checks say of the example, in the order of the checks that save most. */
function reasonsOf({ findings, edits, places, checks }: Fix, run: Readonly<Run>): string[] {
  const examples = new Set(edits.map(({ example }) => example));
  const own = findings.flatMap((index) => run.findings[index] ?? []);
  return checks.flatMap((check) => {
    const said = own.filter((finding) => finding.check === check);
    const shown = said.find(({ placement }) => examples.has(placement)) ?? said[0];
    if (!shown) return [];
    const place = places.find(({ placement }) => placement === shown.placement);
    const elsewhere = examples.has(shown.placement) || !place ? '' : `${placeInWords(place)}: `;
    return [elsewhere + shown.says];
  });
}

function placesInWords({ places }: Fix): string {
  const shown = places.slice(0, mostPlaces).map(placeInWords);
  return shown.join(', ') + more(places.length - shown.length, 'more place');
}

export function placeInWords({
  source,
  page,
  selector,
}: Pick<FixPlace, 'source' | 'page' | 'selector'>): string {
  const made = selector.includes(' >>> ') ? 'in a frame' : 'made by a script';
  return plainText(positionInWords(source) ?? `${page} ${selector} (${made})`);
}

const positionInWords = (source: SourcePosition | null) =>
  source ? `${source.file}:${source.line}:${source.column}` : undefined;

/** Screens on which the same is saved are told once. */
function savingsInWords({ saves, alone }: Fix): string {
  const screens = new Map<string, string[]>();
  for (const [name, bytes] of Object.entries(saves.screens))
    if (bytes !== 0) screens.set(amount(bytes), [...(screens.get(amount(bytes)) ?? []), plainText(name)]);
  const all = Object.keys(saves.screens).length;
  const each = [...screens].map(([bytes, names]) =>
    names.length === all && all > 1 ? `${bytes} on every screen` : `${listed(names)} ${bytes}`,
  );
  const bounds = [
    ...(saves.firstView === saves.expected ? [] : [`first view ${amount(saves.firstView)}`]),
    ...(saves.whole === saves.expected ? [] : [`scrolled to the end ${amount(saves.whole)}`]),
  ];
  const other = alone.expected === saves.expected ? '' : `; alone ${amount(alone.expected)}`;
  return `${each.join(', ')}${bounds.length > 0 ? ` (${bounds.join(', ')})` : ''}${other}; ${amount(1000 * saves.expected)} in 1,000 visits`;
}

/** An estimate is told as the range in which the saving lies: a reader acts on the saving, not on a file. */
function surenessInWords({ sureness, saves: { expected, unsure } }: Fix): string {
  if (unsure === 0) return sureness;
  return `${sureness}; it saves between ${amount(expected - unsure)} and ${amount(expected + unsure)} an average visit`;
}

const amount = (bytes: number) => (bytes < 0 ? signed(bytes, bytesInWords) : bytesInWords(bytes));

const stepsInWords = ({ steps }: Fix) =>
  steps.map(({ kind, expected }) => `${cutNames[kind] ?? kind} ${signed(expected, bytesInWords)}`).join(', ');

const recipesInWords: Record<FileToMake['recipe'], string> = {
  resized: 'as it is stored now',
  'equal-looks': 'looks the same',
  bare: 'without what it carries',
  cleaned: 'cleaned',
  animation: 'animated',
  still: 'still',
  cropped: 'cropped',
};

function fileInWords({ name, bytes, quality, width, format, recipe }: FileToMake): string {
  const setting = quality === null ? recipesInWords[recipe] : `quality ${group(quality)}`;
  const size = format === 'svg' ? '' : `${group(width)} px, `;
  return `${plainText(name)} (${size}${setting}) ${bytesInWords(bytes)}`;
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
    more(distinct.length - mostOthers, 'more') +
    '; the whole text of each is in the run file'
  );
}
