import type { Check, Remedy } from '../checks/check.js';
import type { Facts } from '../checks/facts.js';
import type { JudgedFinding } from '../checks/judge.js';
import { count, percent } from '../checks/words.js';
import type { FileToMake, Fix, Placement, Savings, Written } from '../run/types.js';
import { averageSavings, averageShift, visitsTouched } from './savings.js';
import { editMarkup, type TagEdit } from './tag.js';

interface Group {
  id: string;
  check: Check;
  /** The finding that is shown in full stands first. */
  findings: JudgedFinding[];
  indexes: number[];
  saves: Savings;
  touched: number;
  /** Layout shift that an average visit is spared. */
  shift: number;
}

/** Groups findings of one kind and one template into fixes, ranks them and writes what to paste. */
export function writeFixes(findings: readonly JudgedFinding[], facts: Facts): Fix[] {
  const ranked = groupFindings(findings, facts).sort(byWorth);
  const earlier = new Map<string, TagEdit[]>();
  return ranked.map((group) => toFix(group, facts, earlier));
}

/** The expected bytes of the fixes that findings make, largest first, without what they write. */
export function rankFixes(
  findings: readonly JudgedFinding[],
  facts: Facts,
): { template: string; expected: number }[] {
  return groupFindings(findings, facts)
    .sort(byWorth)
    .map((group) => ({
      template: group.findings[0]?.draft.placement.template ?? '',
      expected: group.saves.expected,
    }));
}

function groupFindings(findings: readonly JudgedFinding[], facts: Facts): Group[] {
  const groups = new Map<string, { check: Check; findings: JudgedFinding[]; indexes: number[] }>();
  findings.forEach((judged, index) => {
    const key = `${judged.check.id} ${judged.draft.placement.template}`;
    const group = groups.get(key) ?? { check: judged.check, findings: [], indexes: [] };
    group.findings.push(judged);
    group.indexes.push(index);
    groups.set(key, group);
  });
  return [...groups].map(([key, group]) => ({
    ...group,
    id: `${group.check.id}.${shortHash(key)}`,
    saves: averageSavings(group.findings, facts.pages, facts.screens),
    touched: visitsTouched(group.findings, facts.pages, facts.screens),
    shift: averageShift(group.findings, facts.pages, facts.screens),
  }));
}

/** Bytes first, then the layout shift, then the visits touched; ties by page, position and id, so that equal input ranks alike. */
function byWorth(a: Group, b: Group): number {
  return (
    b.saves.expected - a.saves.expected ||
    b.saves.firstView - a.saves.firstView ||
    b.shift - a.shift ||
    b.touched - a.touched ||
    (a.indexes[0] ?? 0) - (b.indexes[0] ?? 0) ||
    (a.id < b.id ? -1 : 1)
  );
}

function toFix(group: Group, facts: Facts, earlier: Map<string, TagEdit[]>): Fix {
  const placements = group.findings.map(({ draft }) => draft.placement);
  const pages = [...new Set(placements.map(({ page }) => page))].sort();
  const remedies = group.findings.map(({ check, draft }) => check.remedy(draft, facts));
  const write = writeExample(group, placements, remedies, earlier);
  placements.forEach((placement, index) => {
    const edits = earlier.get(placement.id) ?? [];
    earlier.set(placement.id, [...edits, ...(remedies[index]?.edits ?? [])]);
  });
  const where =
    placements.length === 1
      ? `1 image on ${pages[0]}`
      : `${count(placements.length, 'image')} on ${pages.length === 1 ? pages[0] : count(pages.length, 'page')}`;
  return {
    id: group.id,
    check: group.check.id,
    title: `${group.check.about.title}: ${where}`,
    saves: group.saves,
    sureness: surenessOf(group),
    findings: group.indexes,
    pages,
    places: placements.map(({ id, page, source, selector }) => ({ placement: id, page, source, selector })),
    write,
  };
}

/** What the check says of measured numbers, or how far the worst of the estimates may be off. */
function surenessOf({ check, findings }: Group): string {
  const errors = findings.flatMap(({ draft }) => Object.values(draft.screens).map(({ error = 0 }) => error));
  const worst = Math.max(0, ...errors);
  return worst === 0 ? check.sureness : `estimated ±${percent(worst)}: not every width was encoded`;
}

/** The placement that saves most is the example; the first of equal ones. */
function writeExample(
  group: Group,
  placements: readonly Placement[],
  remedies: readonly Remedy[],
  earlier: ReadonlyMap<string, readonly TagEdit[]>,
): Written {
  const worth = group.findings.map(({ taken }) =>
    Object.values(taken).reduce((sum, { whole, expected }) => sum + whole + expected, 0),
  );
  const index = worth.indexOf(Math.max(...worth));
  const example = placements[index];
  const remedy = remedies[index];
  if (!example || !remedy) return { before: '', after: '', example: '', files: [], notes: [] };
  const before = earlier.get(example.id) ?? [];
  const notes = [...new Set(remedies.flatMap((each) => each.notes))];
  if (before.length > 0 && remedy.edits.length > 0)
    notes.push('The tag contains the changes that fixes further up make to the same image.');
  return {
    before: example.markup,
    after: remedy.edits.length > 0 ? editMarkup(example.markup, [...before, ...remedy.edits]) : '',
    example: example.id,
    files: uniqueFiles(remedies.flatMap(({ files }) => files)),
    notes,
  };
}

function uniqueFiles(files: readonly FileToMake[]): FileToMake[] {
  const byName = new Map(files.map((file) => [file.name, file]));
  return [...byName.values()].sort((a, b) =>
    a.from < b.from ? -1 : a.from > b.from ? 1 : a.width - b.width,
  );
}

/** FNV-1a, 32 bit: names a fix by what it is, so that it has the same name in the next run. */
function shortHash(text: string): string {
  let hash = 0x811c9dc5;
  for (let index = 0; index < text.length; index++) {
    hash = Math.imul(hash ^ text.charCodeAt(index), 0x01000193);
  }
  return (hash >>> 0).toString(36);
}
