import type {
  ComparedFinding,
  ComparedTotals,
  ComparedVisit,
  RunComparison,
} from '../core/comparing/compare-runs.js';
import type { Pair } from '../core/comparing/change.js';
import type { ComparedFix } from '../core/comparing/compare-fixes.js';
import { bytesInWords, count } from '../core/wording/words.js';

/** One part of a comparison as a table, whatever it is written in. The cells are texts of pages among others: each writer makes them safe. */
export interface ComparisonTable {
  title: string;
  head: readonly string[];
  rows: readonly (readonly string[])[];
  /** Rows that were left out. */
  left: number;
}

const change = (pair: Pair, inWords: (value: number) => string): string => {
  const by = pair.after - pair.before;
  if (by === 0) return inWords(pair.after);
  return `${inWords(pair.before)} → ${inWords(pair.after)} (${by > 0 ? '+' : '−'}${inWords(Math.abs(by))})`;
};
const bytes = (pair: Pair) => change(pair, bytesInWords);
const shift = (pair: Pair) => change(pair, (value) => value.toFixed(3));

/** What got better, worse, appeared and went, as tables of at most so many rows; those without a row are left out. */
export function comparisonTables(comparison: RunComparison, most = 20): ComparisonTable[] {
  const { totals, findings, fixes, pages, downloads } = comparison;
  const table = <Item>(
    title: string,
    head: readonly string[],
    items: readonly Item[],
    row: (item: Item) => readonly string[],
  ): ComparisonTable => ({
    title: items.length > 0 && title !== totalsTitle ? `${title} (${items.length})` : title,
    head,
    rows: items.slice(0, most).map(row),
    left: Math.max(0, items.length - most),
  });
  const findingHead = ['check', 'page', 'costs per visit', 'what it is'];
  const finding = ({ check, page, cost, says }: ComparedFinding) => [check, page, bytes(cost), says];
  const fixHead = ['fix', 'saves per visit', 'what to do'];
  const fix = ({ id, saves, title }: ComparedFix) => [id, bytes(saves), title];
  const all = [
    table(
      totalsTitle,
      ['screen', 'first view', 'whole page', 'expected', 'needed'],
      totals,
      (each: ComparedTotals) => [
        each.screen,
        bytes(each.firstView),
        bytes(each.whole),
        bytes(each.expected),
        bytes(each.needed),
      ],
    ),
    table('Findings that appeared', findingHead, findings.appeared, finding),
    table('Findings that got worse', findingHead, findings.worse, finding),
    table('Findings that got better', findingHead, findings.better, finding),
    table('Findings that went', findingHead, findings.went, finding),
    table('Fixes that appeared', fixHead, fixes.appeared, fix),
    table('Fixes that would save more', fixHead, fixes.worse, fix),
    table('Fixes that would save less', fixHead, fixes.better, fix),
    table('Fixes that went', fixHead, fixes.went, fix),
    table('Pages that came', ['page'], pages.appeared, (path) => [path]),
    table('Pages that went', ['page'], pages.went, (path) => [path]),
    table(
      'Visits that changed',
      ['page', 'screen', 'first view', 'whole page', 'layout shift'],
      pages.visits,
      (each: ComparedVisit) => [
        each.page,
        each.screen,
        bytes(each.firstView),
        bytes(each.whole),
        shift(each.shift),
      ],
    ),
    table('Downloads that changed', ['page', 'file', 'before', 'after'], downloads, (each) => [
      each.page,
      each.renamedFrom === null ? each.url : `${each.url} (was ${each.renamedFrom})`,
      each.bytes.before === null ? '' : bytesInWords(each.bytes.before),
      each.bytes.after === null ? 'gone' : bytesInWords(each.bytes.after),
    ]),
  ];
  return all.filter(({ rows }) => rows.length > 0);
}

const totalsTitle = 'Images of a page';

/** One line for whoever reads no more. */
export function comparisonInWords({ findings: { appeared, worse, better, went } }: RunComparison): string {
  return `${count(appeared.length, 'finding')} appeared, ${worse.length} got worse, ${better.length} got better, ${went.length} went.`;
}
