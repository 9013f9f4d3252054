import type { ImageFile, Placement } from '../../run/types.js';
import { defineCheck, nothingToPaste } from '../../judging/check.js';
import { groupBy } from '../../grouping.js';
import { Drafts, worst } from '../../judging/drafts.js';
import type { Facts } from '../../judging/facts.js';
import { bytesInWords, group } from '../../wording/words.js';

type SwarmEvidence = {
  files: number;
  bytes: number;
  /** What the response headers of so many files cost beside, bytes. */
  headerBytes: number;
  sheetBytes: number | null;
  vector: boolean;
};

/** Files up to this are mostly waiting, bytes; … */
const tiny = 2500;
/** … and up to this side they are signs, CSS px. */
const smallSide = 64;
/** Fewer requests cost nothing that a visitor feels on today's connections. */
const fewest = 10;
/** A request and a response with usual headers, compressed as HTTP/2 does. */
const headersEach = 120;

interface TinyFile {
  placement: Placement;
  file: ImageFile;
  bytes: number;
}

/** The tiny vector files or bitmaps of a page on a screen, each once, with the placement that shows it first. */
function swarm(
  placements: readonly Placement[],
  screen: string,
  vector: boolean,
  { files }: Facts,
): TinyFile[] {
  const found = new Map<string, TinyFile>();
  for (const placement of placements) {
    if (placement.kind === 'icon-link' || placement.kind === 'preload') continue;
    const download = placement.downloads[screen];
    const slot = placement.slots[screen];
    const file = download && files.get(download.url);
    if (
      !file ||
      !slot ||
      (file.format === 'svg') !== vector ||
      file.animated ||
      download.bytes > tiny ||
      file.problem !== undefined ||
      found.has(file.url)
    )
      continue;
    if (Math.max(slot.width, slot.height) <= smallSide)
      found.set(file.url, { placement, file, bytes: download.bytes });
  }
  return [...found.values()];
}

/** The bitmaps among the tiny files of a page, where they are enough to be put together. */
function tinyFilesOf(placements: readonly Placement[], facts: Facts): ImageFile[] {
  const swarms = facts.screens.map(({ name }) => swarm(placements, name, false, facts));
  const [largest = []] = swarms.sort((a, b) => b.length - a.length);
  return largest.length >= fewest ? largest.map(({ file }) => file) : [];
}

export const manyTinyFiles = defineCheck<SwarmEvidence>({
  id: 'many-tiny-files',
  about: {
    title: 'Put tiny signs together',
    means:
      'The page asks for many tiny files; each request waits its turn and carries headers as large as a part of the file.',
    evidence:
      'The number of files, their bytes, what their headers cost beside, and the bytes of one sheet of them all.',
    fix: 'For vector signs: write them into the page, each once, as symbols. For bitmaps: one sheet with the position of each sign in it.',
    silent: `Below ${fewest} files of at most ${tiny} bytes that are shown at ${smallSide} CSS px or less.`,
  },
  cut: null,
  sureness: 'counted in the browser',
  words(draft) {
    const found = worst(draft, ({ files }) => files);
    if (!found) return '';
    const { files, bytes, headerBytes, sheetBytes } = found.evidence;
    const sheet = sheetBytes === null ? '' : `; one sheet of them takes ${bytesInWords(sheetBytes)}`;
    return `${group(files)} tiny files of ${bytesInWords(bytes)} together take ${group(files)} requests, and about ${bytesInWords(headerBytes)} of headers${sheet} (on ${found.screen}).`;
  },
  wants: (facts) =>
    [...groupBy(facts.placements, ({ page }) => page)].flatMap(([page, placements]) => {
      const files = tinyFilesOf(placements, facts);
      return files.length > 0 ? [{ kind: 'sheet', page, files }] : [];
    }),
  find(facts) {
    const drafts = new Drafts<SwarmEvidence>();
    for (const [path, placements] of groupBy(facts.placements, ({ page }) => page)) {
      for (const { name } of facts.screens) {
        for (const vector of [false, true]) {
          const files = swarm(placements, name, vector, facts);
          const [first] = files;
          if (!first || files.length < fewest) continue;
          drafts.add(first.placement, name, {
            files: files.length,
            bytes: files.reduce((sum, file) => sum + file.bytes, 0),
            headerBytes: files.length * headersEach,
            sheetBytes: vector ? null : (facts.sheets.get(path)?.bytes ?? null),
            vector,
          });
        }
      }
    }
    return drafts.list();
  },
  remedy(draft, facts) {
    const [evidence] = Object.values(draft.screens);
    const sheet = facts.sheets.get(draft.placement.page);
    if (!evidence || evidence.vector || !sheet)
      return nothingToPaste(
        'Write each sign once into the page as a symbol, and show it with “use”: no request at all.',
      );
    const shown = sheet.places.slice(0, 4).map(({ url, x, y }) => `${url} at −${x}px −${y}px`);
    const more = sheet.places.length - shown.length;
    return nothingToPaste(
      `One PNG of ${sheet.width} × ${sheet.height} px takes ${bytesInWords(sheet.bytes)}, against ${bytesInWords(evidence.bytes)} and ${group(evidence.files)} requests now; written into the style sheet as data, ${bytesInWords(Math.ceil(sheet.bytes / 3) * 4)}.`,
      `background-position of each: ${shown.join(', ')}${more > 0 ? ` and ${more} more` : ''}.`,
    );
  },
});
