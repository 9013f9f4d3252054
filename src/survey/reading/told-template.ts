import { groupBy } from '../../core/grouping.js';
import type { ReadTemplate, Screen } from '../../core/run/index.js';
import type { Page } from '../../site/index.js';
import type { PageLooks } from '../page-looks.js';
import type { Agreement } from './agreement.js';
import type { TemplateReader } from './template-reader.js';

/** Pages of one template. */
export interface Template {
  pages: Page[];
  learnt: Page[];
  checked: Page[];
  onOne: Page[];
  read: Page[];
}

/** A page that has to be visited. */
export interface Left {
  page: Page;
  /** On these screens, on which it was not yet, and why. */
  on: { screen: Screen; why: string }[];
  /** By whom it is read on the others; undefined where it is visited on all. */
  reader?: TemplateReader;
  /** What was seen of it before. */
  seen?: PageLooks['visits'];
}

interface Told {
  left?: readonly Left[];
  agreement?: Agreement | undefined;
  /** Why all were visited. */
  reason?: string;
}

/**
 * What the run tells of a template.
 * @param screens how many there are
 */
export function tellTemplate(
  { pages, learnt, checked, onOne, read }: Template,
  screens: number,
  { left = [], agreement, reason }: Told,
): ReadTemplate {
  const inPart = left.filter(({ reader }) => reader !== undefined).length;
  const toRead = left.filter(({ seen }) => seen === undefined);
  return {
    example: pages[0]?.path ?? '',
    pages: pages.length,
    read: reason === undefined ? read.length - toRead.length : 0,
    ...(inPart > 0 ? { readInPart: inPart } : {}),
    learnt: learnt.length,
    checked: checked.length,
    ...(onOne.length > 0 ? { checkedOnOne: onOne.length } : {}),
    compared: agreement?.compared ?? 0,
    agreed: agreement?.agreed ?? 0,
    alsoVisited: reasonsOf(left, screens),
    visitedWhole: reason ?? null,
  };
}

/** Why pages were visited and on which screens, those with the most pages first. */
function reasonsOf(left: readonly Left[], screens: number): ReadTemplate['alsoVisited'] {
  const all = left.flatMap(({ on }) =>
    [...groupBy(on, ({ why }) => why)].map(([why, some]) => ({
      why,
      screens: some.length < screens ? some.map(({ screen }) => screen.name) : [],
    })),
  );
  return [...groupBy(all, ({ why, screens }) => [why, ...screens].join('\n')).values()]
    .flatMap((same) => {
      const [first] = same;
      if (!first) return [];
      const { why, screens } = first;
      return [{ why, pages: same.length, ...(screens.length > 0 ? { screens } : {}) }];
    })
    .sort((a, b) => b.pages - a.pages || (a.why < b.why ? -1 : 1));
}
