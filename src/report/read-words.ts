import { count, group, listed } from '../core/wording/words.js';
import type { ReadTemplate, Run } from '../core/run/index.js';
import { certainty, faultShare } from '../core/templates/sampling.js';

/** Templates named. */
const mostNamed = 6;

/** What was read from files instead of being visited, and how well that agrees; undefined where all pages of the site were visited. */
export function readInWords({ pages, readTemplates = [] }: Readonly<Run>): ReadInWords | undefined {
  if (readTemplates.length === 0) return undefined;
  const read = pages.filter((page) => page.read).length;
  const inPart = pages.filter(({ visitedOn }) => visitedOn !== undefined).length;
  const partly = inPart > 0 ? `, ${group(inPart)} of these only on some of the screens` : '';
  const [compared, agreed] = [sumOf(readTemplates, 'compared'), sumOf(readTemplates, 'agreed')];
  const share = Math.round(certainty * 100);
  const checked =
    compared > 0
      ? `Of pages that were visited to check it, ${group(agreed)} of ${group(compared)} addresses are as they would have been read.`
      : 'Pages that were visited to check it show no image, as they would have been read.';
  const summary =
    read === 0
      ? `All ${count(pages.length, 'page')} were visited, though none of the templates below could be read.`
      : `${group(read)} of ${count(pages.length, 'page')} were read from their files${partly}, by what visits of pages of the same template saw: so many of each ` +
        `that a fault on one page in ${Math.round(1 / faultShare)} shows with ${share} %. ${checked} --every-page visits all.`;
  const named = readTemplates.slice(0, mostNamed).map(templateInWords);
  const more = readTemplates.length - named.length;
  return {
    summary,
    templates: [...named, ...(more > 0 ? [`${count(more, 'more template')} in the run file`] : [])],
  };
}

export interface ReadInWords {
  summary: string;
  /** A line for each template; page paths in them are the site's own text. */
  templates: string[];
}

function templateInWords({
  example,
  pages,
  read,
  readInPart = 0,
  compared,
  agreed,
  alsoVisited,
  visitedWhole,
}: ReadTemplate): string {
  const what = `${count(pages, 'page')} like ${example}`;
  const check = compared > 0 ? `; ${group(agreed)} of ${group(compared)} addresses agree` : '';
  if (visitedWhole !== null) return `${what}: all visited, because: ${visitedWhole}${check}`;
  const visited = alsoVisited.map(
    ({ why, pages: some, screens }) =>
      `${count(some, 'page')} visited${screens ? ` on ${listed(screens)}` : ''} (${why})`,
  );
  const inPart = readInPart > 0 ? [`${group(readInPart)} in part`] : [];
  return `${what}: ${[`${group(read)} read`, ...inPart, ...visited].join(', ')}${check}`;
}

const sumOf = (templates: readonly ReadTemplate[], name: 'compared' | 'agreed') =>
  templates.reduce((sum, template) => sum + template[name], 0);
