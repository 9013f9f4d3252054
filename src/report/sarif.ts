import { createHash } from 'node:crypto';
import { checks } from '../core/checks/index.js';
import type { Finding, Fix, FixPlace, Placement, Run } from '../core/run/index.js';
import { bytesInWords } from '../core/wording/words.js';
import { asJson } from './as-json.js';
import { plainText } from './plain-text.js';

/** Name of the folder that the addresses of files begin at. SARIF 2.1.0, section 3.14.14. */
const base = 'SITE';

/** Of pages that are not in a file the page's own address is all that can be named. */
const mostRelated = 100;

/**
 * The findings of a run as SARIF 2.1.0 (OASIS Standard, 27 March 2020): one result for each check of each fix, its other places as related
 * locations, and with the first of them the replacements that the fix makes.
 */
export function runAsSarif(run: Readonly<Run>): string {
  const used = checks.filter(({ id }) => run.findings.some(({ check }) => check === id));
  const placements = new Map(run.placements.map((each) => [each.id, each]));
  const results = run.fixes.flatMap((fix) =>
    fix.checks.flatMap((check, index) => {
      const ruleIndex = used.findIndex(({ id }) => id === check);
      const result = ruleIndex < 0 ? undefined : resultOf(run, fix, check, placements);
      if (!result) return [];
      const changes = index === 0 ? changesOf(fix, placements) : [];
      return [
        {
          ruleId: check,
          ruleIndex,
          ...result,
          ...(changes.length > 0
            ? { fixes: [{ description: { text: plainText(fix.title) }, artifactChanges: changes }] }
            : {}),
        },
      ];
    }),
  );
  return asJson({
    $schema: 'https://json.schemastore.org/sarif-2.1.0.json',
    version: '2.1.0',
    runs: [
      {
        tool: {
          driver: {
            name: 'yukkuri',
            semanticVersion: run.meta.tool,
            rules: used.map(({ id, about, cut }) => ({
              id,
              shortDescription: { text: about.title },
              fullDescription: { text: about.means },
              help: { text: `${about.means}\n\nThe fix: ${about.fix}\n\nSilent: ${about.silent}` },
              defaultConfiguration: { level: cut === null ? 'note' : 'warning' },
            })),
          },
        },
        originalUriBaseIds: {
          [base]: {
            description: {
              text: `${run.site.kind === 'live' ? 'What was received of' : 'The folder of'} the site "${plainText(run.site.name)}".`,
            },
          },
        },
        columnKind: 'utf16CodeUnits',
        invocations: [
          {
            executionSuccessful: run.incomplete.length === 0,
            toolExecutionNotifications: run.incomplete.slice(0, 500).map(({ page, screen, why }) => ({
              level: 'warning',
              message: {
                text: plainText(
                  `${page === '' ? 'the whole site' : page}${screen === null ? '' : ` on ${screen}`}: ${why}`,
                ),
              },
            })),
          },
        ],
        results,
      },
    ],
  });
}

function resultOf(run: Readonly<Run>, fix: Fix, check: string, placements: ReadonlyMap<string, Placement>) {
  const own = fix.findings
    .flatMap((index) => run.findings[index] ?? [])
    .filter((each) => each.check === check);
  const example = fix.edits[0]?.example;
  const first = own.find(({ placement }) => placement === example) ?? own[0];
  if (!first) return undefined;
  const places = placesOf(own, fix);
  const [main, ...others] = [
    ...places.filter(({ placement }) => placement === first.placement),
    ...places.filter(({ placement }) => placement !== first.placement),
  ];
  if (!main) return undefined;
  const saved =
    fix.saves.expected > 0 ? ` The fix saves ${bytesInWords(fix.saves.expected)} an average visit.` : '';
  return {
    level: fix.saves.expected > 0 ? 'warning' : 'note',
    message: { text: plainText(first.says) + saved },
    locations: [locationOf(main, placements)],
    ...(others.length > 0
      ? {
          relatedLocations: others
            .slice(0, mostRelated)
            .map((place, index) => ({ id: index + 1, ...locationOf(place, placements) })),
        }
      : {}),
    partialFingerprints: { 'checkAndMarkup/v1': fingerprint(check, main, placements) },
    properties: {
      fix: fix.id,
      savedBytes: fix.saves.expected,
      places: places.length,
      layoutShift: fix.shift,
    },
  };
}

const placesOf = (findings: readonly Finding[], fix: Fix): FixPlace[] =>
  findings.flatMap(({ placement }) => fix.places.find((place) => place.placement === placement) ?? []);

/** Stays the same when lines above it come and go. */
function fingerprint(check: string, place: FixPlace, placements: ReadonlyMap<string, Placement>): string {
  const markup = placements.get(place.placement)?.markup ?? '';
  const text = [check, place.source?.file ?? place.page, markup === '' ? place.selector : markup].join('\n');
  return createHash('sha256').update(text).digest('hex').slice(0, 32);
}

const uriOf = (file: string) => file.split('/').map(encodeURIComponent).join('/');

function locationOf(
  { source, page, selector, placement }: FixPlace,
  placements: ReadonlyMap<string, Placement>,
) {
  const markup = placements.get(placement)?.markup ?? '';
  return {
    physicalLocation: {
      artifactLocation: { uri: uriOf(source ? source.file : fileOf(page)), uriBaseId: base },
      ...(source ? { region: regionOf(source, markup) } : {}),
    },
    logicalLocations: [{ fullyQualifiedName: plainText(`${page} ${selector}`), kind: 'element' }],
  };
}

/** Where a script made the element, the page's address stands for its file. */
const fileOf = (page: string) => `${page.replace(/^\/+/, '')}${page.endsWith('/') ? 'index.html' : ''}`;

/** The place of a text of a file: lines and columns begin at 1, and the end is the place after it. Section 3.30. */
function regionOf({ line, column }: { line: number; column: number }, text: string) {
  const lines = text.split(/\r\n|\r|\n/);
  const last = lines.at(-1) ?? '';
  return {
    startLine: line,
    startColumn: column,
    endLine: line + lines.length - 1,
    endColumn: lines.length === 1 ? column + last.length : last.length + 1,
  };
}

/** What the fix writes, file by file, where the place of the old text is known. */
function changesOf(fix: Fix, placements: ReadonlyMap<string, Placement>) {
  if (fix.kind !== 'edit') return [];
  const files = new Map<string, { deletedRegion: object; insertedContent: { text: string } }[]>();
  const seen = new Set<string>();
  for (const { source, placement, after, edit } of fix.places) {
    const markup = placements.get(placement)?.markup ?? '';
    const kind = fix.edits[edit]?.kind;
    // Of a rule in a style sheet only the declarations are known, not where the text ends.
    // Where references stand for characters, nothing tells how long the text is.
    if (!source || source.quote || markup === '' || after === markup || kind === 'style') continue;
    if (after === '' && kind !== 'link') continue;
    const key = JSON.stringify(source);
    if (seen.has(key)) continue;
    seen.add(key);
    const changes = files.get(source.file) ?? [];
    changes.push({ deletedRegion: regionOf(source, markup), insertedContent: { text: after } });
    files.set(source.file, changes);
  }
  return [...files].map(([file, replacements]) => ({
    artifactLocation: { uri: uriOf(file), uriBaseId: base },
    replacements,
  }));
}
