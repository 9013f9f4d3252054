import { bytesInWords, count, group, percent } from '../../core/wording/words.js';
import type { Run } from '../../core/run/index.js';
import { leftOutInWords } from '../left-out-words.js';
import { againInWords, guessesInWords } from '../again-words.js';
import { readInWords } from '../read-words.js';
import { rememberedInWords } from '../remembered-words.js';
import { Foreign } from './parts.js';

const mostNamed = 40;

/** How sure all is, what was left out and what could not be seen. */
export function About({ run, notes }: { run: Readonly<Run>; notes: readonly string[] }) {
  const {
    picks,
    pricing,
    trifles,
    totals,
    refused,
    redirected,
    incomplete,
    strangeTraffic,
    notJudged,
    leftOut,
    meta,
  } = run;
  const again = againInWords(run);
  const read = readInWords(run);
  return (
    <section id="about">
      <h2>How sure, and what is not in it</h2>
      <ul>
        <li>
          Picks agree: {group(picks.agree)} of {group(picks.compared)}. What each screen takes was predicted,
          and then seen in the browser.
        </li>
        {picks.disagreements.slice(0, mostNamed).map((each, index) => (
          <li key={index}>
            <Foreign
              text={`${each.placement} on ${each.screen}: ${each.observed ?? 'nothing'} was taken, ${each.predicted ?? 'nothing'} was predicted: ${each.reason}`}
              most={500}
            />
          </li>
        ))}
        <li>
          Encoded at equal looks: {group(pricing.encoded)} of {count(pricing.worthPricing, 'picture')};{' '}
          {group(pricing.economical)} economical already; {group(pricing.left)} left. Equal looks: as like the
          picture at that width as a plain JPEG of quality {pricing.looks} of it is.
        </li>
        <li>
          Trifles left out: {count(trifles.findings, 'finding')}, at most {bytesInWords(trifles.bytes)}{' '}
          together.
        </li>
        {again === undefined ? null : <li>{again}</li>}
        {guessesInWords(run).map((guess, index) => (
          <li key={index}>
            <Foreign text={guess} most={500} />
          </li>
        ))}
        {leftOut.length > 0 ? (
          <li>
            Left out by choice: {count(leftOut.filter(({ expired }) => !expired).length, 'finding')}; no
            longer, since their day is over: {leftOut.filter(({ expired }) => expired).length}.{' '}
            <Foreign text={leftOutInWords(leftOut).join(', ')} most={900} />
          </li>
        ) : null}
        {totals.average.notJudged > 0 ? (
          <li>
            Not judged: {bytesInWords(totals.average.notJudged)} of an average visit that no element of a page
            shows:{' '}
            <Foreign
              text={notJudged
                .slice(0, 8)
                .map(({ url }) => url)
                .join(', ')}
              most={900}
            />
          </li>
        ) : null}
        {totals.average.byItself > 0 ? (
          <li>
            Later by itself: {bytesInWords(totals.average.byItself)} of an average visit, for other pages or
            by timers; in no first view.
          </li>
        ) : null}
        <li>
          Visits that scroll so far:{' '}
          {run.conditions.reach
            .map(({ viewports, share }) => `${viewports} screens ${percent(share)}`)
            .join(', ')}
          . Lazy images begin to load {group(run.conditions.lazyDistance)} px below the view.
        </li>
        {refused.length > 0 ? (
          <li>
            Refused: requests to{' '}
            <Foreign
              text={refused.map(({ host, requests }) => `${host} (${requests})`).join(', ')}
              most={900}
            />
          </li>
        ) : null}
        {redirected.length > 0 ? (
          <li>
            Pages that only lead elsewhere:{' '}
            <Foreign text={redirected.map(({ page, to }) => `${page} → ${to}`).join(', ')} most={1500} />
          </li>
        ) : null}
        {strangeTraffic.length > 0 ? (
          <li>
            Visits were counted for paths that the site does not have:{' '}
            <Foreign text={strangeTraffic.map(({ path }) => path).join(', ')} most={900} />
          </li>
        ) : null}
        {notes.map((note, index) => (
          <li key={`note-${index}`}>
            <Foreign text={note} most={400} />
          </li>
        ))}
      </ul>
      {incomplete.length > 0 ? (
        <details open={incomplete.length <= 8}>
          <summary>
            Incomplete: {count(incomplete.length, 'visit or file', 'visits or files')} could not be seen whole
          </summary>
          <ul>
            {incomplete.slice(0, mostNamed * 5).map(({ page, screen, why }, index) => (
              <li key={index}>
                <Foreign
                  text={`${page === '' ? 'the whole site' : page}${screen === null ? '' : ` on ${screen}`}: ${why}`}
                  most={400}
                />
              </li>
            ))}
          </ul>
          {incomplete.length > mostNamed * 5 ? (
            <p>{group(incomplete.length - mostNamed * 5)} more in the run file.</p>
          ) : null}
        </details>
      ) : (
        <p>All visits were seen whole.</p>
      )}
      {read ? (
        <details>
          <summary>{read.summary}</summary>
          <ul>
            {read.templates.map((template, index) => (
              <li key={index}>
                <Foreign text={template} most={400} />
              </li>
            ))}
          </ul>
        </details>
      ) : null}
      <p class="small">
        yukkuri {meta.tool}, {meta.browser}, {meta.encoder}; audited{' '}
        {meta.startedAt.slice(0, 16).replace('T', ' ')} UTC in {group(meta.elapsedMs / 1000)} s
        {meta.browserRestarts > 0
          ? `, the browser died and was started anew ${count(meta.browserRestarts, 'time')}`
          : ''}
        . {rememberedInWords(run)}
      </p>
      <dl class="small">
        <dt>expected</dt>
        <dd>each download by the share of visits that cause it</dd>
        <dt>needed</dt>
        <dd>the same with every fix made</dd>
        <dt>slot</dt>
        <dd>the box of an image, CSS px</dd>
        <dt>later</dt>
        <dd>put off until it is scrolled near</dd>
        <dt>trifles</dt>
        <dd>savings that are not worth a reader’s time</dd>
      </dl>
    </section>
  );
}
