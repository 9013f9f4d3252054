import { bytesInWords, count } from '../../core/wording/words.js';
import type { PageSummary } from '../../core/reporting/page-summary.js';
import type { PageViews, Placement, Screen, VisitRecord } from '../../core/run/index.js';
import { Drawing, fixId, Foreign, pageId, Table } from './parts.js';
import { downloadsPlot, movesPlot } from './plots.js';
import type { ReportView } from './report-view.js';

/** Of very large sites only the pages with most downloads are plotted: the tables have all. */
const mostPlotted = 150;

/** One page: what its visits saw, what waits and jumps, and which images are right as they are. */
export function PageCard({ summary, view }: { summary: PageSummary; view: ReportView }) {
  const { page, screens, fixes, sound, found } = summary;
  const views = view.viewsOf(page.path);
  const plot = view.pageNumber(page.path) < mostPlotted ? downloadsPlot(page, view.run.screens) : undefined;
  const worst = Math.max(0, ...page.visits.map(({ shift }) => shift.score));
  return (
    <details class="page" id={pageId(page.path)} data-page={view.pageNumber(page.path)}>
      <summary>
        <Foreign text={page.path} most={120} />
        <span class="small">
          {' '}
          {count(sound.length + found, 'image')},{' '}
          {count(found, 'of them with a finding', 'of them with findings')}
          {worst >= noticed ? `, jumps by ${worst.toFixed(3)}` : ''}
        </span>
      </summary>
      <div class="body">
        <Table
          label={`Visits of ${page.path}`}
          words={[1]}
          head={[
            'screen',
            'seen',
            'first view',
            'whole page',
            'expected',
            'needed',
            'layout shift',
            'in the browser',
          ]}
          rows={page.visits.map((visit, index) => [
            visit.screen,
            visit.state,
            bytesInWords(visit.firstView.bytes),
            bytesInWords(visit.whole.bytes),
            bytesInWords(screens[index]?.expected ?? 0),
            bytesInWords(screens[index]?.expectedAfter ?? 0),
            visit.shift.score.toFixed(3),
            visit.shift.observed.toFixed(3),
          ])}
        />
        {views.length > 0 ? (
          <section>
            <h3>While images are awaited, and with them</h3>
            <div class="views">
              {views.map((each) => (
                <Views
                  key={each.screen}
                  views={each}
                  screen={view.run.screens.find(({ name }) => name === each.screen)}
                  visit={page.visits.find(({ screen }) => screen === each.screen)}
                />
              ))}
            </div>
          </section>
        ) : null}
        {plot === undefined ? null : (
          <Drawing svg={plot}>
            Where its images began to come: filled in the first view, pale after a scroll or by the page
            itself. A dot’s area is its bytes.
          </Drawing>
        )}
        {fixes.length > 0 ? (
          <p>
            Fixes:{' '}
            {fixes.slice(0, mostFixes).map(({ fix, rank }, index) => (
              <>
                {index > 0 ? ', ' : ''}
                <a href={`#${fixId(fix.id)}`}>
                  {rank} ({fix.id})
                </a>
              </>
            ))}
            {fixes.length > mostFixes ? ` and ${fixes.length - mostFixes} more` : ''}
          </p>
        ) : null}
        {sound.length > 0 ? <Sound placements={sound} /> : null}
      </div>
    </details>
  );
}

const noticed = 0.01;
const mostFixes = 40;
const mostSound = 60;

function Sound({ placements }: { placements: readonly Placement[] }) {
  return (
    <details>
      <summary>{count(placements.length, 'image')} right as they are</summary>
      <ul>
        {placements.slice(0, mostSound).map((each) => (
          <li key={each.id}>
            <Foreign
              text={
                each.source ? `${each.source.file}:${each.source.line}:${each.source.column}` : each.selector
              }
              most={120}
            />{' '}
            <Foreign text={Object.values(each.downloads)[0]?.url ?? each.candidates[0] ?? ''} most={90} />
          </li>
        ))}
      </ul>
      {placements.length > mostSound ? <p>{placements.length - mostSound} more in the run file.</p> : null}
    </details>
  );
}

function Views({
  views: { held, loaded, screen: name },
  screen,
  visit,
}: {
  views: PageViews;
  screen: Screen | undefined;
  visit: VisitRecord | undefined;
}) {
  const moves = (visit?.shift.releases ?? []).flatMap(({ moved }) =>
    moved.flatMap(({ from, to }) => (from && to ? [{ from, to }] : [])),
  );
  const score = visit?.shift.score ?? 0;
  const jumps = screen && score >= 0.001 && moves.length > 0;
  return (
    <figure class="view">
      <div class="view-pair">
        <img
          src={held.url}
          width={held.width}
          height={held.height}
          loading="lazy"
          alt={`${name}, images awaited`}
        />
        <span class="overlaid">
          <img
            src={loaded.url}
            width={loaded.width}
            height={loaded.height}
            loading="lazy"
            alt={`${name}, loaded`}
          />
          {jumps ? (
            <span
              class="overlay"
              dangerouslySetInnerHTML={{ __html: movesPlot(moves.slice(0, mostMoves), screen, loaded) }}
            />
          ) : null}
        </span>
      </div>
      <figcaption>
        {name}: awaited, loaded{jumps ? `; layout shift ${score.toFixed(3)}` : ''}
      </figcaption>
    </figure>
  );
}

const mostMoves = 8;
