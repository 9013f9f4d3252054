import type { Fix, Placement } from '../run/types.js';
import { asItStands } from '../markup/quoted-value.js';
import { findText, type Splice } from './places.js';
import type { LeftOut } from './choose.js';

/** A text of the site as it is now. */
export interface EditableText {
  text: string;
  /** Whether its encoding has characters for all of an edit. */
  takes(edit: string): boolean;
}

export type TextOf = (file: string) => EditableText | { why: string };

export interface PlannedEdits {
  /** By the site's file. */
  files: Map<string, Splice[]>;
  /** The fixes that are made, every one at all its places that stand in a file. */
  made: Fix[];
  left: LeftOut[];
}

/**
 * Finds the texts of fixes at their places. A fix of which one place no longer holds its text is not made anywhere, nor is one that edits
 * what an earlier one has edited in another way.
 * @param textOf a site's file as it is now, or why it cannot be edited
 */
export function planEdits(
  fixes: readonly Fix[],
  placements: ReadonlyMap<string, Placement>,
  textOf: TextOf,
): PlannedEdits {
  const planned: PlannedEdits = { files: new Map(), made: [], left: [] };
  for (const fix of fixes) {
    const own = editsOf(fix, placements, textOf, planned.files);
    if (typeof own === 'string') {
      planned.left.push({ fix: fix.id, title: fix.title, why: own, notes: [] });
      continue;
    }
    for (const [file, splices] of own)
      planned.files.set(file, [...(planned.files.get(file) ?? []), ...splices]);
    planned.made.push(fix);
  }
  return planned;
}

/** @returns the new splices by file, or why there are none */
function editsOf(
  { places }: Fix,
  placements: ReadonlyMap<string, Placement>,
  textOf: TextOf,
  known: ReadonlyMap<string, readonly Splice[]>,
): Map<string, Splice[]> | string {
  const edits = new Map<string, Splice[]>();
  for (const { placement, source, after } of places) {
    const before = placements.get(placement)?.markup;
    if (source === null || before === undefined || after === asItStands(before, source)) continue;
    const content = textOf(source.file);
    if ('why' in content) return `${source.file} ${content.why}`;
    if (!content.takes(after))
      return `${source.file} is written in an encoding that lacks a character of the new text`;
    const range = findText(content.text, before, source);
    if (!range)
      return `${source.file} has changed since the audit: line ${source.line}, column ${source.column} no longer holds what was seen there`;
    const own = edits.get(source.file) ?? [];
    const others = [...own, ...(known.get(source.file) ?? [])];
    const same = others.find(({ from, to }) => from === range.from && to === range.to);
    // A rule that several pages show is one place.
    if (same && same.text === after) continue;
    if (others.some(({ from, to }) => from < range.to && range.from < to))
      return `${source.file}:${source.line}:${source.column} is edited by another fix in another way`;
    own.push({ ...range, text: after });
    edits.set(source.file, own);
  }
  return edits;
}
