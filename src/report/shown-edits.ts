import type { Fix, FixEdit } from '../core/run/index.js';

/** The texts of a fix that are shown: of what is done by hand those that say how, and links that go away. */
export const shownEdits = ({ kind, edits }: Pick<Fix, 'kind' | 'edits'>): FixEdit[] =>
  edits.filter(
    (edit) => edit.before !== edit.after && (edit.after !== '' || (edit.kind === 'link' && kind !== 'hand')),
  );
