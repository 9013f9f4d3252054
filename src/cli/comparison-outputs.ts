import type { RunComparison } from '../core/comparing/compare-runs.js';
import { asJson } from '../report/as-json.js';
import { comparisonAsMarkdown } from '../report/comparison-markdown.js';
import { comparisonPage } from '../report/html/comparison-page.js';
import { comparisonReport } from '../report/terminal/comparison-report.js';
import type { TerminalStyle } from '../report/terminal/layout.js';

/** A comparison in every form in which it is handed out. */
export function comparisonAs(name: string, comparison: RunComparison, mostCharacters: number) {
  return {
    terminal: (style: TerminalStyle) => comparisonReport(comparison, style),
    json: () => asJson({ format: 'yukkuri-comparison/1', site: name, ...comparison }),
    html: () => comparisonPage(name, comparison),
    markdown: () => comparisonAsMarkdown(name, comparison, mostCharacters),
  };
}
