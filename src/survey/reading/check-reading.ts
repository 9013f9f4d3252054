import type { Screen } from '../../core/run/index.js';
import type { VisitSummary } from '../visit-summary.js';
import { compareLook, type Agreement } from './agreement.js';
import { NotReadable } from './samples.js';
import type { LookedPage, SeenPage, TemplateReader } from './template-reader.js';

export interface CheckedReading {
  agreement: Agreement;
  /** Screens on which none of the pages could be read, by name, and why: there nothing else is read either. */
  unchecked: Map<string, string>;
}

/**
 * Holds what would be read of pages against what their visits saw.
 * @throws {NotReadable} when none could be read on any screen
 */
export function checkReading(
  reader: TemplateReader,
  { checked, onOne }: { checked: readonly SeenPage[]; onOne: readonly LookedPage[] },
  screens: readonly Screen[],
): CheckedReading {
  const agreement: Agreement = { compared: 0, agreed: 0, example: undefined };
  const unchecked = new Map(screens.map(({ name }) => [name, 'none of the pages that check was seen whole']));
  const held = new Set<string>();
  const hold = (path: string, read: VisitSummary, seen: VisitSummary, screen: Screen) => {
    held.add(screen.name);
    const { compared, agreed, example } = compareLook(read, seen, screen);
    agreement.compared += compared;
    agreement.agreed += agreed;
    if (example !== undefined) agreement.example ??= `${path}: ${example}`;
  };
  for (const { file, looks } of checked)
    for (const [index, { screen, summary, why }] of reader.read(file).entries()) {
      const seen = looks.visits[index]?.summary;
      // Such a page would have been visited: there is nothing to check.
      if (!summary || !seen) {
        if (why !== undefined) unchecked.set(screen.name, why);
        continue;
      }
      hold(file.path, summary, seen, screen);
    }
  for (const { file, visits } of onOne)
    for (const { screen, summary: seen } of visits) {
      const read = reader.read(file, [screen])[0]?.summary;
      if (read && seen.visit.state === 'complete') hold(file.path, read, seen, screen);
    }
  for (const name of held) unchecked.delete(name);
  if (held.size === 0) throw new NotReadable([...unchecked.values()][0]);
  return { agreement, unchecked };
}
