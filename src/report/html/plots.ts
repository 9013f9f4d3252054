import * as Plot from '@observablehq/plot';
import { parseHTML } from 'linkedom';
import { bytesInWords } from '../../core/wording/words.js';
import type { Run, ScreenTotals } from '../../core/run/index.js';
import type { CurvePoint, SlotCurves } from '../../core/reporting/slot-plot.js';
import type { FixLedger } from '../../core/reporting/fix-ledger.js';
import { cutNames } from '../cut-names.js';

/** Colours of the page's style sheet, so that both themes and paper have theirs. */
const colours = {
  delivered: 'var(--delivered)',
  needed: 'var(--needed)',
  saved: 'var(--saved)',
  others: 'var(--others)',
  claim: 'var(--claim)',
  ink: 'var(--ink)',
  moved: 'var(--moved)',
};

const { document } = parseHTML('<!doctype html><html><body></body></html>');

/** A plot as SVG text. Its words are escaped by the document that it is made in. */
function draw(label: string, options: Plot.PlotOptions): string {
  const svg = Plot.plot({
    document: document as unknown as Document,
    style: { background: 'none' },
    ...options,
  });
  // Every plot brings the same style sheet, which the page has once.
  return (
    svg.outerHTML
      .replace(/<style>[\s\S]*?<\/style>/, '')
      // Parts of a picture need no names of their own.
      .replace(/ aria-label="[^"]*"/g, '')
      .replace(/^<svg /, `<svg role="img" aria-label="${escaped(label)}" `)
  );
}

const escaped = (text: string) =>
  text.replaceAll('&', '&amp;').replaceAll('"', '&quot;').replaceAll('<', '&lt;');
const kilobytes = (bytes: number) => bytesInWords(bytes);

/** What an average visit downloads on each screen against what it needs. */
export function totalsPlot(run: Readonly<Run>): string {
  const parts: [string, (totals: ScreenTotals) => number, string][] = [
    ['first view', (each) => each.firstView, colours.delivered],
    ['whole page', (each) => each.whole, colours.delivered],
    ['expected', (each) => each.expected, colours.delivered],
    ['needed', (each) => each.expectedAfter, colours.needed],
  ];
  const bars = run.totals.screens.flatMap((totals) =>
    parts.map(([part, value, fill]) => ({ screen: totals.screen, part, bytes: value(totals), fill })),
  );
  const largest = Math.max(1, ...bars.map(({ bytes }) => bytes));
  return draw('Image bytes of an average visit on each screen: first view, whole page, expected, needed', {
    width: 720,
    height: 40 + run.screens.length * 82,
    marginLeft: 80,
    marginRight: 70,
    x: { axis: null, domain: [0, largest] },
    y: { label: null, domain: parts.map(([name]) => name), tickSize: 0 },
    fy: { label: null, domain: run.screens.map(({ name }) => name), axis: null },
    facet: { marginLeft: 170 },
    marks: [
      Plot.axisFy({ anchor: 'left', textAnchor: 'end', dx: -75, fontWeight: 'bold', fontSize: 12 }),
      Plot.barX(bars, { x: 'bytes', y: 'part', fy: 'screen', fill: 'fill' }),
      Plot.text(bars, {
        x: 'bytes',
        y: 'part',
        fy: 'screen',
        text: (bar: { bytes: number }) => kilobytes(bar.bytes),
        textAnchor: 'start',
        dx: 5,
      }),
      Plot.ruleX([0]),
    ],
  });
}

/** The bytes of the downloads that a fix touches, cut down step by step. */
export function ledgerPlot({ delivered, cuts, byOthers, remains }: FixLedger): string {
  let level = delivered;
  const bars = [{ step: 'delivered', from: 0, to: delivered, fill: colours.delivered, bytes: delivered }];
  const cut = (step: string, bytes: number, fill: string) => {
    bars.push({ step, from: level - bytes, to: level, fill, bytes: -bytes });
    level -= bytes;
  };
  for (const { kind, bytes } of cuts) cut(cutNames[kind] ?? kind, bytes, colours.saved);
  if (byOthers !== 0) cut('other fixes', byOthers, colours.others);
  bars.push({ step: 'needed', from: 0, to: remains, fill: colours.needed, bytes: remains });
  const told = bars.map(({ step, bytes }) => `${step} ${kilobytes(bytes)}`).join(', ');
  return draw(`Expected bytes of an average visit: ${told}`, {
    width: 620,
    height: 16 + bars.length * 24,
    marginLeft: 110,
    marginRight: 80,
    marginTop: 4,
    marginBottom: 4,
    x: { axis: null, domain: [0, Math.max(1, delivered, ...bars.map(({ to }) => to))] },
    y: { label: null, domain: bars.map(({ step }) => step), tickSize: 0 },
    marks: [
      Plot.barX(bars, { x1: 'from', x2: 'to', y: 'step', fill: 'fill' }),
      Plot.text(bars, {
        x: (bar: { from: number; to: number }) => Math.max(bar.from, bar.to),
        y: 'step',
        text: ({ bytes }: { bytes: number }) => (bytes < 0 ? `−${kilobytes(-bytes)}` : kilobytes(bytes)),
        textAnchor: 'start',
        dx: 5,
      }),
      Plot.ruleX([0]),
    ],
  });
}

/** What an image needs, claims and takes at every width of the viewport. */
export function curvesPlot({ density, needed, claimed, proposed, takes, taken }: SlotCurves): string {
  const line = (points: readonly CurvePoint[], options: Plot.LineOptions) =>
    points.length > 1 ? [Plot.line(points, { x: 'at', y: 'value', strokeWidth: 2, ...options })] : [];
  const steps = { curve: 'step-after', strokeWidth: 1.5 } as const;
  return draw(
    `Device px at density ${density} against the width of the viewport: what the slot needs, what sizes claims before and after, which file is taken before and after`,
    {
      width: 620,
      height: 230,
      marginLeft: 60,
      x: { label: 'viewport, CSS px', domain: [320, 2560] },
      y: { label: 'device px', grid: true, zero: true, nice: true },
      marks: [
        ...line(takes, { ...steps, stroke: colours.delivered }),
        ...line(taken, { ...steps, stroke: colours.saved }),
        ...line(claimed, { stroke: colours.claim, strokeDasharray: '2 4' }),
        ...line(proposed, { stroke: colours.saved, strokeDasharray: '7 4' }),
        ...line(needed, { stroke: colours.ink, strokeWidth: 2.5 }),
      ],
    },
  );
}

/** Where on the way down the page its images began to come. */
export function downloadsPlot(page: Run['pages'][number], screens: Run['screens']): string | undefined {
  const began = { 'first-view': 'first view', scrolled: 'scrolled', 'by-itself': 'by itself' };
  const dots = page.visits.flatMap(({ screen, downloads }) =>
    downloads
      .filter(({ bytes }) => bytes > 0)
      .map(({ bytes, scrollDepth, began: when }) => ({
        screen,
        depth: scrollDepth,
        bytes,
        began: began[when],
      })),
  );
  if (dots.length === 0) return undefined;
  const deepest = Math.max(...page.visits.map(({ documentHeight }) => documentHeight));
  return draw(
    `Image downloads of ${page.path} by the scroll position at which they began; a dot’s area is its bytes`,
    {
      width: 720,
      height: 34 + 34 * screens.length,
      marginLeft: 80,
      marginTop: 8,
      x: { label: 'scrolled, CSS px', domain: [0, Math.max(1, deepest)], grid: true, inset: 16 },
      y: { label: null, domain: screens.map(({ name }) => name), type: 'point', tickSize: 0 },
      // Of small files every dot is small.
      r: { domain: [0, Math.max(50_000, ...dots.map(({ bytes }) => bytes))], range: [0, 13] },
      marks: [
        Plot.dot(dots, {
          x: 'depth',
          y: 'screen',
          r: 'bytes',
          fill: ({ began: when }: { began: string }) =>
            when === 'first view' ? colours.delivered : colours.others,
          fillOpacity: 0.75,
          stroke: colours.ink,
          strokeWidth: 0.5,
        }),
      ],
    },
  );
}

/** What moved in the first view when images came: where it was, dashed, and where it went. */
export function movesPlot(
  moves: readonly { from: Box; to: Box }[],
  view: { width: number; height: number },
  shown: { width: number; height: number },
): string {
  const middle = ({ x, y, width, height }: Box) => ({ x: x + width / 2, y: y + height / 2 });
  const boxes = (pick: (move: { from: Box; to: Box }) => Box, dashed: boolean) =>
    Plot.rect(moves.map(pick), {
      x1: 'x',
      x2: ({ x, width }: Box) => x + width,
      y1: 'y',
      y2: ({ y, height }: Box) => y + height,
      stroke: colours.moved,
      strokeWidth: 1.5,
      fill: 'none',
      clip: true,
      ...(dashed ? { strokeDasharray: '3 3' } : {}),
    });
  const arrows = moves.map(({ from, to }) => ({ from: middle(from), to: middle(to) }));
  return draw('Boxes of what moved, dashed where they were, and arrows to where they went', {
    ...shown,
    margin: 0,
    axis: null,
    x: { domain: [0, view.width] },
    y: { domain: [view.height, 0] },
    marks: [
      boxes(({ from }) => from, true),
      boxes(({ to }) => to, false),
      Plot.arrow(arrows, {
        x1: ({ from }: { from: Point }) => from.x,
        y1: ({ from }: { from: Point }) => from.y,
        x2: ({ to }: { to: Point }) => to.x,
        y2: ({ to }: { to: Point }) => to.y,
        stroke: colours.moved,
        clip: true,
      }),
    ],
  });
}

interface Point {
  x: number;
  y: number;
}
interface Box extends Point {
  width: number;
  height: number;
}

/** Promised against achieved, fix by fix. */
export function proofPlot(rows: readonly { name: string; promised: number; achieved: number }[]): string {
  return draw('Bytes saved by each fix made: promised and achieved', {
    width: 720,
    height: 50 + rows.length * 20,
    marginLeft: 110,
    x: { label: 'saved per average visit, kB', grid: true, transform: (bytes: number) => bytes / 1000 },
    y: { label: null, domain: rows.map(({ name }) => name), tickSize: 0 },
    marks: [
      Plot.ruleY(rows, { y: 'name', x1: 'promised', x2: 'achieved', stroke: colours.ink }),
      Plot.dot(rows, { x: 'promised', y: 'name', r: 6, stroke: colours.delivered, strokeWidth: 2 }),
      Plot.dot(rows, { x: 'achieved', y: 'name', r: 3.5, fill: colours.saved }),
    ],
  });
}
