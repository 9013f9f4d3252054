import { shownEdits } from '../shown-edits.js';
import { groupBy } from '../../core/grouping.js';
import { bytesInWords, count, group, percent } from '../../core/wording/words.js';
import type { Fix, FixDetail, FixPlace } from '../../core/run/index.js';
import type { SlotPlot } from '../../core/reporting/slot-plot.js';
import {
  amount,
  fileInWords,
  isAllAsked,
  placeInWords,
  reasonsOf,
  savingsInWords,
  surenessInWords,
} from '../fix-words.js';
import { MarkupDifference } from './markup-difference.js';
import { Drawing, fixId, Foreign, Table } from './parts.js';
import { curvesPlot, ledgerPlot } from './plots.js';
import type { ReportView } from './report-view.js';

interface Shown {
  fix: Fix;
  rank: number;
  view: ReportView;
}

/** One fix, closed to a line: what it is and what it saves. */
export function FixCard({ fix, rank, view, open }: Shown & { open: boolean }) {
  const { expected } = fix.saves;
  const orders = {
    alone: fix.alone.expected,
    first: fix.saves.firstView,
    ...Object.fromEntries(
      view.run.screens.map(({ name }, index) => [`screen-${index}`, fix.saves.screens[name] ?? 0]),
    ),
  };
  return (
    <li>
      <details
        class="fix"
        id={fixId(fix.id)}
        open={open}
        data-rank={rank}
        data-saves={JSON.stringify(orders)}
        data-pages={fix.pages.map((path) => view.pageNumber(path)).join(' ')}
        data-checks={fix.checks.join(' ')}
        data-screens={view.screensOf(fix).join(' ')}
      >
        <summary>
          <span class="rank">{rank}</span>
          <span class="title">
            <Foreign text={fix.title} /> <code>{fix.id}</code>
          </span>
          <span class={expected < 0 ? 'saved costs' : 'saved'}>
            {expected === 0 ? (fix.kind === 'hand' ? 'by hand' : 'no bytes') : amount(expected)}
          </span>
          <span class="share" aria-hidden="true">
            <span style={`width:${Math.max(0, (100 * expected) / view.largestSaving).toFixed(1)}%`} />
          </span>
        </summary>
        <FixBody fix={fix} rank={rank} view={view} />
      </details>
    </li>
  );
}

function FixBody({ fix, view }: Shown) {
  const plot = view.slotPlot(fix);
  const detail = view.details.get(fix.id);
  const ledger = view.ledgers.get(fix.id);
  return (
    <div class="body">
      <ul class="why">
        {reasonsOf(fix, view.run).map((says, index) => (
          <li key={index}>
            <Foreign text={says} most={600} />
          </li>
        ))}
      </ul>
      {fix.saves.expected === 0 ? null : (
        <p>
          Saves <Foreign text={savingsInWords(fix)} most={900} />. Sure: {surenessInWords(fix)}.
        </p>
      )}
      {fix.shift > 0 ? <p>Spares an average visit a layout shift of {fix.shift.toFixed(3)}.</p> : null}
      {detail ? <Detail detail={detail} view={view} /> : null}
      {ledger && (fix.saves.expected !== 0 || ledger.cuts.length > 0) ? (
        <Drawing svg={ledgerPlot(ledger)}>
          Expected bytes of the downloads that this fix touches, in an average visit: what is delivered, what
          is taken off, what is needed.
        </Drawing>
      ) : null}
      {plot ? <Curves plot={plot} id={fixId(fix.id)} /> : null}
      {shownEdits(fix).map(({ before, after }, index) => (
        <section key={index}>
          <h3>{fix.kind === 'hand' ? 'To be done by hand' : 'The text'}</h3>
          <MarkupDifference before={before} after={after} id={`${fixId(fix.id)}-text-${index}`} />
        </section>
      ))}
      <Screens fix={fix} view={view} />
      {fix.files.length > 0 ? (
        <details>
          <summary>
            {count(fix.files.length, 'file')} {isAllAsked(fix) ? 'that the image host gives' : 'to make'}
          </summary>
          <ul>
            {fix.files.map((file) => (
              <li key={file.name}>
                <Foreign text={fileInWords(file)} />
                {file.error > 0 ? ` (estimated, ± ${percent(file.error)})` : ''}
              </li>
            ))}
          </ul>
        </details>
      ) : null}
      <Places fix={fix} view={view} />
      {fix.notes.map((note, index) => (
        <p class="note" key={index}>
          <Foreign text={note} most={600} />
        </p>
      ))}
    </div>
  );
}

/** What a visitor sees: dot for dot, and where the two differ. */
function Detail({
  detail: { before, after, difference, largest, screen },
  view,
}: {
  detail: FixDetail;
  view: ReportView;
}) {
  const density = view.run.screens.find(({ name }) => name === screen)?.density ?? 1;
  const each = (
    what: string,
    file: { url: string; bytes: number } | undefined,
    picture: FixDetail['difference'],
  ) => (
    <figure key={what}>
      <img src={picture.url} width={picture.width} height={picture.height} alt={what} />
      <figcaption>
        {what}
        {file ? (
          <>
            : <Foreign text={file.url} most={60} />, {bytesInWords(file.bytes)}
          </>
        ) : null}
      </figcaption>
    </figure>
  );
  return (
    <section>
      <h3>What a visitor on {screen} sees</h3>
      <div class="detail">
        {each('delivered', before, before.picture)}
        {each('after the fix', after, after.picture)}
        {each('difference', undefined, difference)}
      </div>
      <p class="small">
        The part of the picture in which most happens, dot for dot as a screen of density {density} draws it.
        The difference is shown eight times as bright; its largest step is {largest} of 255.
      </p>
    </section>
  );
}

/** Slot, claim, proposal and files at each width, for the density that is chosen. */
function Curves({ plot: { curves }, id }: { plot: SlotPlot; id: string }) {
  return (
    <section class="curves">
      <h3>What it needs and what it takes at each width</h3>
      <fieldset>
        <legend>Pixel density</legend>
        {curves.map(({ density }, index) => (
          <label key={density}>
            <input type="radio" name={`${id}-density`} value={density} checked={index === 1} /> {density}×
          </label>
        ))}
      </fieldset>
      {curves.map((each) => (
        <div key={each.density} class={`at-density at-${each.density}`}>
          <Drawing svg={curvesPlot(each)} />
        </div>
      ))}
      <p class="legend small">
        <span class="mark needed-line" /> needed by the slot <span class="mark claim-line" /> sizes claims now{' '}
        <span class="mark proposed-line" /> sizes would claim <span class="mark takes-line" /> file taken now{' '}
        <span class="mark taken-line" /> file taken after the fix
      </p>
    </section>
  );
}

function Screens({ fix, view }: { fix: Fix; view: ReportView }) {
  const example = fix.edits[0]?.example;
  const place = fix.places.find(({ placement }) => placement === example) ?? fix.places[0];
  if (!place || Object.keys(place.takes).length === 0) return null;
  return (
    <Table
      label={`${fix.id} by screen`}
      words={[1, 2]}
      head={['screen', 'takes now', 'takes after', 'weighs then', 'saves per visit']}
      rows={view.run.screens.flatMap(({ name }) => {
        const takes = place.takes[name];
        if (!takes) return [];
        return [
          [
            name,
            <Foreign text={takes.before ?? 'nothing'} most={80} />,
            <Foreign
              text={takes.before === takes.after ? 'the same' : (takes.after ?? 'nothing')}
              most={80}
            />,
            takes.after === null ? '' : bytesInWords(takes.bytes),
            amount(fix.saves.screens[name] ?? 0),
          ],
        ];
      })}
    />
  );
}

/** Longer lists say the same thing again. */
const mostPlaces = 60;

/** Every place of the fix, those of one template together. */
function Places({ fix, view }: { fix: Fix; view: ReportView }) {
  const templates = groupBy(fix.places, ({ placement }) => view.templateOf(placement));
  return (
    <details open={fix.places.length <= 4}>
      <summary>
        {count(fix.places.length, 'place')}
        {templates.size > 1 ? `, of ${templates.size} templates` : ''}
      </summary>
      {[...templates].map(([template, places]) => (
        <details key={template} open={templates.size === 1}>
          <summary>
            {count(places.length, 'place')} like{' '}
            <Foreign text={placeInWords(places[0] as FixPlace)} most={90} />
          </summary>
          <ul>
            {places.slice(0, mostPlaces).map((place) => (
              <li key={place.placement}>
                <Foreign text={placeInWords(place)} most={160} /> <span class="small">on</span>{' '}
                <Foreign text={place.page} most={90} />
              </li>
            ))}
          </ul>
          {places.length > mostPlaces ? (
            <p>{group(places.length - mostPlaces)} more in the run file.</p>
          ) : null}
        </details>
      ))}
    </details>
  );
}
