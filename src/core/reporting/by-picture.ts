import { weightsOn } from '../bytes/visit-weights.js';
import type { FileToMake, FixPlace, Run } from '../run/types.js';

/** One picture with everything that is to be done about it, as somebody mends it in one go. */
export interface PictureTask {
  /** Address of the file that everything is made from, or of what is delivered. */
  picture: string;
  /** Expected bytes of an average visit that all fixes together take off its downloads. */
  saves: number;
  /** Its fixes in the order of the list, with their places there, counted from 1. */
  fixes: { id: string; rank: number }[];
  checks: string[];
  files: FileToMake[];
  /** Texts with every fix in them, each with the places that it is for. */
  texts: { after: string; places: FixPlace[] }[];
}

/** The fixes of a run by picture, those that save most first. */
export function tasksByPicture(run: Readonly<Run>): PictureTask[] {
  const pictureOf = pictures(run);
  const tasks = new Map<string, PictureTask>();
  const taskOf = (picture: string): PictureTask => {
    const known = tasks.get(picture) ?? { picture, saves: 0, fixes: [], checks: [], files: [], texts: [] };
    tasks.set(picture, known);
    return known;
  };
  const finalTexts = new Map<string, FixPlace>();
  run.fixes.forEach((fix, index) => {
    for (const place of fix.places) {
      const task = taskOf(pictureOf(place.placement));
      if (!task.fixes.some(({ id }) => id === fix.id)) task.fixes.push({ id: fix.id, rank: index + 1 });
      for (const check of fix.checks) if (!task.checks.includes(check)) task.checks.push(check);
      // A text further down holds the edits of those above it.
      if (fix.kind === 'edit' && place.after !== '') finalTexts.set(place.placement, place);
    }
    for (const file of fix.files) {
      const { files } = taskOf(file.from);
      if (!files.some(({ name }) => name === file.name)) files.push(file);
    }
  });
  for (const place of finalTexts.values()) {
    const { texts } = taskOf(pictureOf(place.placement));
    const same = texts.find(({ after }) => after === place.after);
    if (same) same.places.push(place);
    else texts.push({ after: place.after, places: [place] });
  }
  for (const [picture, saved] of savedBy(run, pictureOf)) {
    const task = tasks.get(picture);
    if (task) task.saves = Math.round(saved);
  }
  return [...tasks.values()].sort((a, b) => b.saves - a.saves || (a.picture < b.picture ? -1 : 1));
}

/** The picture of each placement: what its new files are made from, else what most of its visits take. */
function pictures({ fixes, placements }: Readonly<Run>): (placement: string) => string {
  const masters = new Map(fixes.flatMap(({ files }) => files.map(({ name, from }) => [name, from] as const)));
  const found = new Map<string, string>();
  for (const { places } of fixes)
    for (const { placement, takes } of places)
      for (const { after } of Object.values(takes)) {
        const master = masters.get(after ?? '');
        if (master !== undefined && !found.has(placement)) found.set(placement, master);
      }
  const delivered = new Map(
    placements.map(({ id, downloads, candidates }) => [
      id,
      Object.values(downloads)[0]?.url ?? candidates[0] ?? '',
    ]),
  );
  return (placement) => found.get(placement) ?? delivered.get(placement) ?? '';
}

function savedBy(run: Readonly<Run>, pictureOf: (placement: string) => string): Map<string, number> {
  const sums = new Map<string, number>();
  for (const { name, share } of run.screens) {
    const weights = weightsOn(run.pages, name);
    for (const { page, screen, placements, url, expected, expectedRemains } of run.ledger) {
      if (screen !== name) continue;
      const [first] = placements;
      const picture = first === undefined ? url : pictureOf(first);
      const saved = (weights.get(page) ?? 0) * share * (expected - expectedRemains);
      sums.set(picture, (sums.get(picture) ?? 0) + saved);
    }
  }
  return sums;
}
