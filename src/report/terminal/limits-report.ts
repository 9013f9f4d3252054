import type { Breach } from '../../core/limits/limits.js';
import { bytesInWords, count, group } from '../../core/wording/words.js';
import { plainText } from '../plain-text.js';
import { TextPage, type TerminalStyle } from './layout.js';

const names: Readonly<Record<string, string>> = {
  firstView: 'the first view’s images weigh',
  expected: 'the images of an average visit weigh',
  whole: 'the whole page’s images weigh',
  saved: 'fixes could save',
  shift: 'the layout shifts by',
};

const mostNamed = 4;
const mostShown = 30;

/** Which page goes beyond which limit, by how much, and what would bring it under. */
export function limitsReport(breaches: readonly Breach[], style: TerminalStyle): string {
  const page = new TextPage(style);
  page.blank();
  page.text(page.paint.yellow.bold(`${count(breaches.length, 'limit is', 'limits are')} gone beyond:`));
  for (const breach of breaches.slice(0, mostShown)) page.text(breachInWords(breach), 4, '  - ');
  if (breaches.length > mostShown) page.text(`${group(breaches.length - mostShown)} more.`, 4);
  return page.toString();
}

function breachInWords({ page, screen, what, value, most, fixes, cured }: Breach): string {
  const inWords = what === 'shift' ? (number: number) => number.toFixed(3) : bytesInWords;
  const where = `${plainText(page)}${screen === null ? '' : ` on ${plainText(screen)}`}`;
  const how =
    screen === null
      ? `${count(value, 'finding')} of ${what}, ${group(most)} allowed`
      : `${names[what] ?? what} ${inWords(value)}, ${inWords(value - most)} over the limit of ${inWords(most)}`;
  return `${where}: ${how}. ${cureInWords(fixes, cured)}`;
}

function cureInWords(fixes: readonly string[], cured: boolean): string {
  if (fixes.length === 0) return 'No fix is known for it.';
  const named = fixes.slice(0, mostNamed).join(', ');
  const more = fixes.length > mostNamed ? ` and ${fixes.length - mostNamed} more` : '';
  return cured
    ? `${fixes.length === 1 ? 'This fix brings' : 'These fixes bring'} it under: ${named}${more}.`
    : `All known fixes leave it over: ${named}${more}.`;
}
