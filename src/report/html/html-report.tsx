import { readFileSync } from 'node:fs';
import { bytesInWords, count, percent } from '../../core/wording/words.js';
import type { Fix, ReportPictures, Run } from '../../core/run/index.js';
import { About } from './about.js';
import { FixCard } from './fix-card.js';
import { htmlPage } from './html-page.js';
import { PageCard } from './page-card.js';
import { Drawing, Foreign, Table } from './parts.js';
import { totalsPlot } from './plots.js';
import { ProofSection } from './proof.js';
import { ReportView, type Proved } from './report-view.js';

export interface HtmlReportOptions {
  pictures?: ReportPictures | undefined;
  /** What a mended copy proved. */
  proved?: Proved | undefined;
}

/**
 * The whole report of a run as one HTML page that asks nobody for anything: pictures, plots, style and script are written into it, and it
 * can be read without script.
 */
export function htmlReport(run: Readonly<Run>, { pictures, proved }: HtmlReportOptions = {}): string {
  const script = readFileSync(new URL('./report-page.js', import.meta.url), 'utf8').trim();
  const view = new ReportView(run, pictures, proved);
  return htmlPage(`${run.site.name}: images`, <Report view={view} />, script);
}

/** So many fixes are open at first. */
const opened = 1;

function Report({ view }: { view: ReportView }) {
  const { run, proved } = view;
  const { average } = run.totals;
  const ranked = run.fixes.map((fix, index) => ({ fix, rank: index + 1 }));
  const saving = ranked.filter(({ fix }) => fix.saves.expected > 0);
  const felt = ranked.filter(({ fix }) => fix.saves.expected <= 0);
  const saved = average.expected - average.expectedAfter;
  return (
    <>
      <a class="skip" href="#fixes">
        To the fixes
      </a>
      <header>
        <h1>
          <Foreign text={run.site.name} />
        </h1>
        <p>
          {count(run.pages.length, 'page')} on {count(run.screens.length, 'screen')},{' '}
          {count(run.placements.length, 'image placement')}
        </p>
        <nav aria-label="Parts of this report">
          <a href="#totals">totals</a> <a href="#fixes">fixes ({saving.length})</a>{' '}
          <a href="#felt">felt, without bytes ({felt.length})</a> <a href="#pages">pages</a>{' '}
          {proved ? <a href="#mended">mended copy</a> : null} <a href="#about">how sure</a>
        </nav>
      </header>
      <main>
        <section id="totals">
          <h2>What an average visit downloads</h2>
          <p class="lead">
            <strong>{bytesInWords(average.expected)}</strong> of images, of which{' '}
            <strong>{bytesInWords(average.expectedAfter)}</strong> are needed: the fixes below save{' '}
            {bytesInWords(saved)}
            {average.expected > 0 ? ` (${percent(saved / average.expected)})` : ''}.
          </p>
          <Drawing svg={totalsPlot(run)} />
          <Totals run={run} />
        </section>
        {proved ? <ProofSection proved={proved} /> : null}
        <Tools view={view} />
        <section id="fixes">
          <h2>Fixes, by bytes saved</h2>
          {saving.length === 0 ? <p>Nothing that saves bytes was found.</p> : null}
          <List fixes={saving} view={view} open={opened} />
        </section>
        <section id="felt">
          <h2>Fixes that save no bytes, what visitors feel most first</h2>
          {felt.length === 0 ? <p>None was found.</p> : null}
          <List fixes={felt} view={view} open={0} />
        </section>
        <section id="pages">
          <h2>Pages</h2>
          {view.pages.map((summary) => (
            <PageCard key={summary.page.path} summary={summary} view={view} />
          ))}
        </section>
        <About
          run={run}
          notes={
            view.pictures?.notes ?? [
              'This report was made without the site, so it has no pictures: give it with --site.',
            ]
          }
        />
      </main>
    </>
  );
}

function List({
  fixes,
  view,
  open,
}: {
  fixes: readonly { fix: Fix; rank: number }[];
  view: ReportView;
  open: number;
}) {
  return (
    <ol class="fixes">
      {fixes.map(({ fix, rank }, index) => (
        <FixCard key={fix.id} fix={fix} rank={rank} view={view} open={index < open} />
      ))}
    </ol>
  );
}

function Totals({ run }: { run: Readonly<Run> }) {
  const rows = [...run.totals.screens, { ...run.totals.average, screen: 'average visit' }];
  return (
    <Table
      label="Image bytes by screen"
      words={[1]}
      head={[
        'images of a page',
        'screen',
        'visits',
        'first view',
        'whole page',
        'expected',
        'needed',
        'saves',
      ]}
      rows={rows.map((totals, index) => {
        const screen = run.screens[index];
        const { expected, expectedAfter } = totals;
        return [
          totals.screen,
          screen ? `${screen.width}×${screen.height} @${screen.density}` : '',
          screen ? percent(screen.share) : '',
          bytesInWords(totals.firstView),
          bytesInWords(totals.whole),
          bytesInWords(expected),
          bytesInWords(expectedAfter),
          expected > 0 ? percent((expected - expectedAfter) / expected) : '0 %',
        ];
      })}
    />
  );
}

/** Filters and the order; shown only where scripts run. */
function Tools({ view: { run } }: { view: ReportView }) {
  const checks = [...new Set(run.fixes.flatMap((fix) => fix.checks))].sort();
  const choose = (name: string, label: string, options: readonly [value: string, text: string][]) => (
    <label>
      {label}{' '}
      <select id={`choose-${name}`}>
        {options.map(([value, text]) => (
          <option key={value} value={value}>
            {text}
          </option>
        ))}
      </select>
    </label>
  );
  return (
    <section class="tools" hidden data-needs-script aria-label="Choose and sort">
      {choose('page', 'page', [
        ['', 'all'],
        ...run.pages.map(({ path }, index): [string, string] => [String(index), path.slice(0, 80)]),
      ])}
      {choose('check', 'check', [['', 'all'], ...checks.map((id): [string, string] => [id, id])])}
      {choose('screen', 'screen', [
        ['', 'all'],
        ...run.screens.map(({ name }, index): [string, string] => [String(index), name]),
      ])}
      {choose('order', 'order by', [
        ['share', 'what each adds'],
        ['alone', 'saved if it is the only one'],
        ['first', 'saved in the first view'],
        ...run.screens.map(({ name }, index): [string, string] => [`screen-${index}`, `saved on ${name}`]),
      ])}
      <button type="button" id="open-all">
        open or close all
      </button>
      <span id="shown" role="status" />
    </section>
  );
}
