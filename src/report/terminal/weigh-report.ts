import { settingInWords, type WeighedVariant, type Weighing } from '../../core/bytes/weighing.js';
import { bytesInWords, group, listed, percent } from '../../core/wording/words.js';
import { plainText } from '../plain-text.js';
import { TextPage, type TerminalStyle } from './layout.js';
import { plainTable } from './plain-table.js';

export type WeighedEntry =
  | { name: string; weighing: Weighing; took(format: string, width: number): number | null }
  | { name: string; why: string };

/** What files weigh at several widths and in several formats, and what to serve. */
export function weighReport(entries: readonly WeighedEntry[], style: TerminalStyle): string {
  const page = new TextPage(style);
  for (const entry of entries) {
    page.blank();
    page.text(page.paint.bold(plainText(entry.name)));
    if ('why' in entry) page.text(page.paint.yellow(`cannot be weighed: ${plainText(entry.why)}`), 2);
    else oneFile(page, entry.weighing, entry.took);
  }
  return page.toString();
}

function oneFile(
  page: TextPage,
  weighing: Weighing,
  took: (format: string, width: number) => number | null,
): void {
  const { paint } = page;
  const { file, variants, notes } = weighing;
  page.text(paint.dim(factsInWords(weighing)), 2);
  page.blank();
  const rows = variants.map((variant) => cellsOf(variant, weighing, took(variant.format, variant.width)));
  const table = plainTable(columns, rows, (name) => name === 'format' || name === 'how sure');
  page.raw(table.split('\n').map((line) => `  ${line}`));
  page.blank();
  for (const line of shipInWords(weighing)) page.text(line, 2);
  for (const note of notes) page.text(plainText(note), 2);
  const metadata = Object.entries(file.metadata);
  if (metadata.length > 0)
    page.text(
      `Carried along: ${listed(metadata.map(([kind, bytes]) => `${kind} ${bytesInWords(bytes)}`))}. The new files are without it.`,
      2,
    );
}

/** Of a lossily stored file it often cannot be told: then nothing is said. */
function kindInWords({ file: { lossless }, content }: Weighing): string[] {
  if (content === 'between') return lossless ? ['between drawing and photograph'] : [];
  return [content === 'photo' ? 'a photograph' : 'a drawing'];
}

function factsInWords(weighing: Weighing): string {
  const { file } = weighing;
  const { format, width, height, bytes, quality, bitDepth, colourSpace, alpha, frames } = file;
  return [
    `${format.toUpperCase()}, ${group(width)} × ${group(height)} px, ${bytesInWords(bytes)}`,
    ...(quality === null ? [] : [`quality ${quality}`]),
    ...(frames > 1 ? [`${group(frames)} pictures`] : format === 'svg' ? [] : kindInWords(weighing)),
    ...(bitDepth > 8 ? [`${bitDepth} bits a channel, weighed with 8`] : []),
    ...(colourSpace === 'cmyk' ? ['CMYK, weighed as sRGB'] : []),
    ...(alpha === 'none' || format === 'svg' || format === 'gif'
      ? []
      : [alpha === 'used' ? 'transparent' : 'an alpha channel that is not used']),
  ].join('; ');
}

const columns = ['width', 'format', 'bytes', 'of the file', 'quality', 'likeness', 'how sure', 'took'];

function cellsOf(variant: WeighedVariant, { file }: Weighing, ms: number | null): Record<string, string> {
  const { width, format, bytes, decibels, error } = variant;
  return {
    width: group(width),
    format: format.toUpperCase(),
    bytes: bytesInWords(bytes),
    'of the file': shareInWords(bytes / file.bytes),
    quality: settingInWords(variant),
    likeness: decibels === null ? '–' : `${decibels.toFixed(1)} dB`,
    'how sure': error === 0 ? 'measured' : `estimated ±${percent(error)}`,
    took: ms === null || error > 0 ? '–' : `${group(ms)} ms`,
  };
}

/** Small shares need a decimal to be told apart. */
const shareInWords = (share: number) => (share < 0.1 ? `${(share * 100).toFixed(1)} %` : percent(share));

function shipInWords({ ship, economical, file }: Weighing): string[] {
  if (ship.length === 0) return ['Nothing could be measured.'];
  const lines = ship.map(({ width, best, fallback }) => {
    if (best.bytes >= file.bytes)
      return `At ${group(width)} px serve the file itself: made smaller it weighs more.`;
    const other = fallback
      ? `, ${fallback.format.toUpperCase()} of ${bytesInWords(fallback.bytes)} for older browsers`
      : '';
    return `At ${group(width)} px serve ${best.format.toUpperCase()} of ${bytesInWords(best.bytes)}${other}.`;
  });
  return economical === true
    ? [...lines, `At its own size the file of ${bytesInWords(file.bytes)} is economical: leave it as it is.`]
    : lines;
}
