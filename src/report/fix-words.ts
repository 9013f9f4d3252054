import type { FileToMake, Fix, FixPlace, Run, SourcePosition } from '../core/run/index.js';
import { bytesInWords, group, listed } from '../core/wording/words.js';
import { cutNames, signed } from './cut-names.js';
import { plainText } from './plain-text.js';

/** What the checks say of the example, in the order of the checks that save most. */
export function reasonsOf({ findings, edits, places, checks }: Fix, run: Readonly<Run>): string[] {
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

export function placeInWords({
  source,
  page,
  selector,
}: Pick<FixPlace, 'source' | 'page' | 'selector'>): string {
  const made = selector.includes(' >>> ') ? 'in a frame' : 'made by a script';
  return plainText(positionInWords(source) ?? `${page} ${selector} (${made})`);
}

const positionInWords = (source: SourcePosition | null) =>
  source ? `${source.file}:${source.line}:${source.column}${source.quote ? ' (in srcdoc)' : ''}` : undefined;

/** Screens on which the same is saved are told once. */
export function savingsInWords({ saves, alone }: Fix): string {
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
export function surenessInWords({ sureness, saves: { expected, unsure } }: Fix): string {
  if (unsure === 0) return sureness;
  return `${sureness}; it saves between ${amount(expected - unsure)} and ${amount(expected + unsure)} an average visit`;
}

export const amount = (bytes: number) => (bytes < 0 ? signed(bytes, bytesInWords) : bytesInWords(bytes));

export const stepsInWords = ({ steps }: Fix) =>
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

function settingInWords({ quality, palette, recipe }: FileToMake): string {
  if (quality !== null) return `quality ${group(quality)}`;
  return palette ? 'with a palette of colours' : recipesInWords[recipe];
}

/** Whether nothing is to be made: the host of the pictures gives all files by their addresses. */
export const isAllAsked = ({ files }: Pick<Fix, 'files'>): boolean => files.every(({ asked }) => asked);

export function fileInWords(file: FileToMake): string {
  const { name, asked, bytes, width, format } = file;
  const setting = settingInWords(file);
  const size = format === 'svg' ? '' : `${group(width)} px, `;
  const given = asked ? ', from the image host' : '';
  return `${plainText(name)} (${size}${setting}${given}) ${bytesInWords(bytes)}`;
}
