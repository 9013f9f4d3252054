/** A fault that touches so many of a template's pages … */
export const faultShare = 0.05;
/** … is to show with this probability. */
export const certainty = 0.95;

/** Of the pages that are read so many are visited as well, … */
const checkedShare = 0.05;
/** … and never fewer. */
const fewestChecked = 5;

/** What is read of a page is learnt from so many others at least. */
const fewestLearnt = 20;

/** Where fewer pages than this could be read, all are visited. */
const worthReading = 10;

/**
 * Of how many pages, chosen by nothing that has to do with the fault, at least one shows it: the smallest n with 1 − (1 − share)ⁿ at or above
 * the certainty. Of few pages it needs fewer still, since none is chosen twice.
 * @param share pages with the fault, above 0 and below 1
 * @param sure probability, above 0 and below 1
 */
export function pagesToShow(share = faultShare, sure = certainty): number {
  return Math.ceil(Math.log(1 - sure) / Math.log(1 - share));
}

export interface Sample<Page> {
  /** Visited, to learn from. */
  learnt: Page[];
  /** Visited too, to check what was learnt. */
  checked: Page[];
  /** Visited on one screen each, so that faults show there and to check the more, and read on the others. */
  onOne: Page[];
  /** To be read. */
  read: Page[];
}

/**
 * Chooses the pages of a template to visit. Those that check count among those that show faults; on several screens most of them are visited on one.
 * @param pages in an order that nobody chose, as by the hash of their content
 * @param screens how many there are
 */
export function samplePages<Page>(pages: readonly Page[], screens: number): Sample<Page> {
  const checks = Math.max(fewestChecked, Math.ceil(checkedShare * (pages.length - fewestLearnt)));
  const visited = Math.max(fewestLearnt + checks, pagesToShow());
  if (pages.length < visited + worthReading) return { learnt: [...pages], checked: [], onOne: [], read: [] };
  const learnt = screens === 1 ? visited - checks : fewestLearnt;
  const checked = learnt + (screens === 1 ? checks : fewestChecked);
  return {
    learnt: pages.slice(0, learnt),
    checked: pages.slice(learnt, checked),
    onOne: pages.slice(checked, visited),
    read: pages.slice(visited),
  };
}
