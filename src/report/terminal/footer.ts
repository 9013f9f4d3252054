import { bytesInWords, count, group, listed, percent } from '../../core/wording/words.js';
import type { Run } from '../../core/run/index.js';
import { leftOutInWords } from '../left-out-words.js';
import { againInWords, guessesInWords } from '../again-words.js';
import { readInWords } from '../read-words.js';
import { rememberedInWords } from '../remembered-words.js';
import { plainText } from '../plain-text.js';
import type { TextPage } from './layout.js';

const mostIncomplete = 8;

/** A line of help for the words that the report is written with. */
const words =
  'slot: the box of an image, CSS px; economical: nothing makes it worthwhile lighter; ' +
  'reach: the share of visits that scroll so far; later: put off until it is scrolled near; ballast: what a drawing carries and nobody sees; ' +
  'trifles: savings that are not worth a reader’s time. More in the README.';

const moreOf = (left: number, what: string) => (left > 0 ? [`${count(left, 'more ' + what)}`] : []);

/** What stands below the fixes: how sure the run is, what it left out and what it could not see. */
export function footer(page: TextPage, run: Readonly<Run>): void {
  const { paint } = page;
  page.blank();
  const { agree, compared } = run.picks;
  if (compared > 0) {
    const share = agree === compared ? '' : ` (${percent(agree / compared)})`;
    page.text(
      `Picks agree: ${group(agree)} of ${group(compared)}${share}. What each screen takes was predicted and then seen in the browser.`,
    );
  }
  for (const { placement, screen, predicted, observed, reason } of run.picks.disagreements.slice(
    0,
    mostIncomplete,
  )) {
    const taken = `${plainText(observed ?? 'nothing')} was taken, ${plainText(predicted ?? 'nothing')} was predicted`;
    page.text(`${plainText(placement)} on ${plainText(screen)}: ${taken} (${reason})`, 4, '  - ');
  }
  pricing(page, run);
  if (run.trifles.findings > 0) {
    page.text(
      `Trifles left out: ${count(run.trifles.findings, 'finding')}, at most ${bytesInWords(run.trifles.bytes)} together.`,
    );
  }
  leftOut(page, run);
  if (run.refused.length > 0) {
    const hosts = run.refused.map(
      ({ host, requests }) => `${plainText(host)} (${requests === 0 ? 'by a socket or worker' : requests})`,
    );
    page.text(
      `Requests to other hosts were refused: ${listed([...hosts.slice(0, 8), ...moreOf(hosts.length - 8, 'host')])}.${run.site.kind === 'live' ? ' Allow one with --allow <host>.' : ' Allow them with --other-hosts.'}`,
    );
    const pages = [...new Set(run.refused.flatMap((each) => each.pages))].sort();
    const named = pages.slice(0, 5).map((path) => plainText(path));
    if (pages.length > 0)
      page.text(
        `Totals, layout and lazy distances lack what they would bring on ${count(pages.length, 'page')}: ${listed([...named, ...moreOf(pages.length - 5, 'page')])}.`,
        4,
      );
  }
  if (run.redirected.length > 0) {
    const named = run.redirected
      .slice(0, 5)
      .map(({ page: from, to }) => `${plainText(from)} → ${plainText(to)}`);
    const one = run.redirected.length === 1;
    page.text(
      `${count(run.redirected.length, 'page')} only ${one ? 'leads' : 'lead'} to another and ${one ? 'counts' : 'count'} nowhere: ${listed([...named, ...moreOf(run.redirected.length - 5, 'page')])}.`,
    );
  }
  if (run.strangeTraffic.length > 0) {
    const paths = run.strangeTraffic
      .slice(0, 5)
      .map(({ path, visits }) => `${plainText(path)} (${group(visits)})`);
    const more = run.strangeTraffic.length - paths.length;
    page.text(
      `Visits were counted for paths that the site does not have: ${paths.join(', ')}${more > 0 ? ` and ${group(more)} more` : ''}. They are left out.`,
    );
  }
  const again = againInWords(run);
  if (again !== undefined) page.text(again);
  for (const guess of guessesInWords(run).slice(0, mostIncomplete)) page.text(plainText(guess));
  const read = readInWords(run);
  if (read) {
    page.text(read.summary);
    for (const template of read.templates) page.text(plainText(template), 4, '  - ');
  }
  const remembered = rememberedInWords(run);
  if (remembered !== undefined) page.text(remembered);
  if (run.meta.browserRestarts > 0)
    page.text(`The browser died and was started anew ${times(run.meta.browserRestarts)}.`);
  page.blank();
  page.text(paint.dim(words));
  if (run.incomplete.length > 0) {
    page.blank();
    page.text(
      paint.yellow.bold(
        `Incomplete: ${count(run.incomplete.length, 'visit or file', 'visits or files')} could not be seen whole`,
      ),
    );
    for (const { page: path, screen, why } of run.incomplete.slice(0, mostIncomplete))
      page.text(
        `${path === '' ? 'the whole site' : plainText(path)}${screen === null ? '' : ` on ${plainText(screen)}`}: ${plainText(why)}`,
        4,
        '  - ',
      );
    const more = run.incomplete.length - mostIncomplete;
    if (more > 0) page.text(`${group(more)} more: see "incomplete" in the run file.`, 4);
  }
}

/** What was left out by choice; what is over is told again. */
function leftOut(page: TextPage, { leftOut: all }: Readonly<Run>): void {
  const named = (list: typeof all) => {
    const words = leftOutInWords(list);
    return listed([...words.slice(0, mostIncomplete), ...moreOf(words.length - mostIncomplete, 'reason')]);
  };
  const holding = all.filter(({ expired }) => !expired);
  const over = all.filter(({ expired }) => expired);
  if (holding.length > 0)
    page.text(`Left out by choice: ${count(holding.length, 'finding')}: ${named(holding)}.`);
  if (over.length > 0)
    page.text(
      page.paint.yellow(
        `No longer left out, since the day is over: ${count(over.length, 'finding')}: ${named(over)}.`,
      ),
    );
}

function pricing(
  page: TextPage,
  { site, pricing: { looks, worthPricing, encoded, economical, left, limited } }: Readonly<Run>,
): void {
  if (worthPricing === 0) return;
  const why = limited
    ? 'because --encode-limit was reached'
    : encoded === 0
      ? 'because of --encode none'
      : 'because they cannot change the order of the first 20 fixes (--encode all encodes them)';
  const rest = left > 0 ? ` ${count(left, 'picture')} ${left === 1 ? 'was' : 'were'} left, ${why}.` : '';
  page.text(
    `Encoded at equal looks: ${group(encoded)} of ${count(worthPricing, 'picture')}; ${group(economical)} of them ${economical === 1 ? 'is' : 'are'} economical already.${rest}`,
  );
  if (encoded === 0) return;
  // Of what a server sent no file is left to be weighed.
  const seeing =
    site.kind === 'live'
      ? ''
      : ' See it for yourself: yukkuri weigh --fix <name behind a title> --picture compared.png';
  page.text(
    `“Looks the same” means: as like the picture at that width as a plain JPEG of quality ${group(looks)} of it is (--looks).${seeing}`,
  );
}

const times = (often: number) => (often === 1 ? 'once' : `${group(often)} times`);
