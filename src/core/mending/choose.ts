import type { Fix, Run } from '../run/types.js';

/** Which fixes are made; all that can be edited where nothing is said. */
export interface Choice {
  ids?: readonly string[];
  /** Kinds of cuts; a fix that saves something by one of them is made whole. */
  causes?: readonly string[];
  /** Only the first so many of the list. */
  first?: number;
}

/** A thing that is not done, and why; what a person has to do instead. */
export interface LeftOut {
  fix: string;
  title: string;
  why: string;
  notes: string[];
}

export interface Chosen {
  fixes: Fix[];
  left: LeftOut[];
}

/** The fixes to make, in the order of the run, and what of those asked for only a person can do. */
export function chooseFixes({ fixes }: Pick<Run, 'fixes'>, { ids, causes, first }: Choice): Chosen {
  const wanted = fixes.filter(
    ({ id, steps }, index) =>
      (ids === undefined || ids.includes(id)) &&
      (causes === undefined || steps.some(({ kind }) => causes.includes(kind))) &&
      (first === undefined || index < first),
  );
  const chosen: Chosen = { fixes: [], left: [] };
  for (const fix of wanted) {
    const why = whyByHand(fix);
    if (why === undefined) chosen.fixes.push(fix);
    else chosen.left.push({ fix: fix.id, title: fix.title, why, notes: fix.notes });
  }
  return chosen;
}

function whyByHand({ kind, places, files }: Fix): string | undefined {
  if (kind === 'hand') return 'it needs a person';
  if (places.every(({ source }) => source === null))
    return 'its elements stand in no file: a script or a frame makes them';
  if (files.some(({ recipe }) => recipe === 'still')) return 'where to cut needs a person’s eye';
  const elsewhere = files.find(({ name, asked }) => asked !== true && isElsewhere(name));
  if (elsewhere)
    return `its files belong on ${new URL(elsewhere.name).host}, where nothing can be put from here`;
  return undefined;
}

/** Addresses of the site are paths from its root. */
const isElsewhere = (address: string) => !address.startsWith('/') && URL.canParse(address);
