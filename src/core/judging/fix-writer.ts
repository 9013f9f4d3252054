import { groupBy } from '../grouping.js';
import { viewOf } from '../layout/view-of.js';
import { asItStands } from '../markup/quoted-value.js';
import type { Claimed } from '../plan/claims.js';
import { byMaking, giveNames, type PlannedFile } from '../plan/file-book.js';
import type { ImageState } from '../plan/image-state.js';
import { filesOf } from '../plan/image-state.js';
import { readText } from '../plan/pick-text.js';
import { editMarkup } from '../plan/tag.js';
import { hasOneFile } from '../plan/start-state.js';
import { writeState, type NameOf } from '../plan/write-state.js';
import type { FileToMake, Fix, FixEdit, FixPlace, LedgerEntry, Placement, TakenFiles } from '../run/types.js';
import { count, listed } from '../wording/words.js';
import type { Check } from './check.js';
import { earlyPreload } from './early-preload.js';
import { averageShift } from './felt.js';
import type { FixGroup } from './fix-group.js';
import type { Judgement, Kept } from './judge.js';
import { makingNotes } from './making-notes.js';
import { renewHash } from './page-protections.js';

const oneFileOnly =
  'A script of the page writes src of such an image, so it gets one file for all screens: beside srcset, or in a picture, what the script sets would not be shown.';

/** Writes fixes: texts with the names that the files get, the files to make, and what each screen takes. */
export class FixWriter {
  readonly #names: ReadonlyMap<PlannedFile, string>;
  readonly #nameOf: NameOf = (file) => this.#names.get(file) ?? file.url;

  constructor(
    readonly judgement: Judgement,
    groups: readonly FixGroup[],
  ) {
    const { plan, files, names, hosts } = judgement.facts;
    const wanted = new Map<PlannedFile, { density?: number }>();
    for (const { placements, byHand } of groups) {
      if (byHand) continue;
      for (const placement of placements)
        for (const { rungs } of plan.stateOf(placement)?.sources ?? [])
          for (const { file, descriptor } of rungs)
            if (file.recipe !== 'as-is' && !wanted.has(file))
              wanted.set(file, 'density' in descriptor ? { density: descriptor.density } : {});
    }
    this.#names = giveNames(wanted, { files, names, ...(hosts ? { hosts } : {}) });
  }

  write(group: FixGroup, claim: Claimed, ledger: readonly LedgerEntry[]): Fix {
    const { kept, facts } = this.judgement;
    const own = group.findings.flatMap((index) => kept[index] ?? []);
    const example = exampleOf(group, ledger);
    const { edits, places } = this.#texts(group, example, own);
    const made = group.byHand ? [] : this.#made(group.placements);
    const checks = checksOf(own, claim);
    const pages = [...new Set(group.placements.map(({ page }) => page))].sort();
    return {
      id: group.id,
      kind: group.byHand ? 'hand' : 'edit',
      checks: checks.map(({ id }) => id),
      title: `${titleOf(checks)}: ${whereOf(group.placements, pages, own)}`,
      saves: claim.share,
      alone: claim.alone,
      steps: claim.steps,
      sureness: surenessOf(made, checks, facts),
      shift: averageShift(
        own.map(({ found }) => found),
        facts,
      ),
      findings: [...group.findings],
      pages,
      places,
      edits,
      files: made.map((file) => this.#toMake(file)),
      notes: [
        ...new Set([
          ...own.flatMap((each) => this.#notesOf(each)),
          ...(!group.byHand && group.placements.some(hasOneFile) ? [oneFileOnly] : []),
          ...(group.byHand ? [] : sealedSheets(group.placements, facts).map(renewHash)),
          ...makingNotes(made, facts.files),
        ]),
      ],
    };
  }

  #notesOf({ found: { placement, screens }, remedy: { notes, preloads } }: Kept): string[] {
    const { facts } = this.judgement;
    return [
      ...(preloads ? earlyPreload(placement, Object.keys(screens), facts, this.#nameOf) : []),
      ...notes,
    ];
  }

  /** The texts of a fix: one example for each kind of element, and each place's own. */
  #texts(
    group: FixGroup,
    example: Placement | undefined,
    own: readonly Kept[],
  ): { edits: FixEdit[]; places: FixPlace[] } {
    const edits: FixEdit[] = [];
    const positions = new Map<string, number>();
    const ordered = example
      ? [example, ...group.placements.filter((each) => each !== example)]
      : group.placements;
    const ownOf = groupBy(own, ({ found }) => found.placement.id);
    const places = ordered.map((placement): FixPlace => {
      const written = group.byHand
        ? this.#suggestion(placement, ownOf.get(placement.id) ?? [])
        : this.#textOf(placement);
      const after = asItStands(written, placement.source);
      const kind = kindOf(placement);
      const key = `${kind} ${placement.template}`;
      let edit = positions.get(key);
      if (edit === undefined) {
        const before = asItStands(placement.markup, placement.source);
        edit = edits.push({ kind, example: placement.id, before, after }) - 1;
        positions.set(key, edit);
      }
      const { id, page, source, selector } = placement;
      return {
        placement: id,
        page,
        source,
        selector,
        edit,
        after,
        takes: this.#takes(placement, group.byHand),
      };
    });
    return { edits, places };
  }

  /** The text of a placement with the names that its files get, read back before it is handed out. */
  #textOf(placement: Placement): string {
    const { plan, screens } = this.judgement.facts;
    const state = plan.stateOf(placement);
    if (!state) return '';
    const text = writeState(state, this.#nameOf);
    const read = readText(text, state.form, state.base);
    for (const screen of screens) {
      if (!placement.downloads[screen.name]) continue;
      const claimed = plan.taken(placement, screen.name);
      const taken = read(viewOf(placement, screen), placement.slots[screen.name]?.width);
      if (claimed && taken?.url !== this.#nameOf(claimed.file))
        throw new Error(
          `What was written for ${placement.id} makes ${screen.name} take ${taken?.url ?? 'nothing'}, not ${this.#nameOf(claimed.file)}. This is a fault of the program.`,
        );
    }
    return text;
  }

  /** What is to be done by hand, shown on the tag as the plan leaves it. */
  #suggestion(placement: Placement, own: readonly Kept[]): string {
    const { plan } = this.judgement.facts;
    const edits = own.flatMap(({ remedy }) => remedy.suggests ?? []);
    if (edits.length === 0) return '';
    const state: ImageState | undefined = plan.stateOf(placement);
    return editMarkup(state ? writeState(state, this.#nameOf) : placement.markup, edits);
  }

  #takes(placement: Placement, byHand: boolean): Record<string, TakenFiles> {
    const { plan, screens } = this.judgement.facts;
    return Object.fromEntries(
      screens.flatMap(({ name }): [string, TakenFiles][] => {
        const before = plan.taken(placement, name, 0);
        const after = byHand ? before : plan.taken(placement, name);
        if (!before && !after) return [];
        return [
          [
            name,
            {
              before: before?.file.url ?? null,
              after: after ? this.#nameOf(after.file) : null,
              bytes: Math.round(after?.bytes ?? 0),
              reach: after?.reach ?? 0,
              inFirstView: after?.inFirstView ?? false,
            },
          ],
        ];
      }),
    );
  }

  /** Every file that the texts name and that is not there, each once. */
  #made(placements: readonly Placement[]): PlannedFile[] {
    const { plan } = this.judgement.facts;
    const files = new Set<PlannedFile>();
    for (const placement of placements) {
      const state = plan.stateOf(placement);
      for (const file of state ? filesOf(state) : []) if (file.recipe !== 'as-is') files.add(file);
    }
    return [...files].sort(byMaking);
  }

  #toMake(file: PlannedFile): FileToMake {
    const { master, width, format, bytes, quality, palette, error, recipe, crop } = file;
    return {
      name: this.#nameOf(file),
      ...(this.judgement.facts.hosts?.at(master) ? { asked: true as const } : {}),
      from: master,
      recipe: recipe === 'as-is' ? 'resized' : recipe,
      width,
      format,
      bytes: Math.round(bytes ?? 0),
      quality,
      ...(palette ? { palette } : {}),
      error,
      ...(crop ? { crop } : {}),
    };
  }
}

const sealedSheets = (placements: readonly Placement[], { protections }: Judgement['facts']): string[] =>
  [...new Set(placements.flatMap((placement) => protections.sealedSheetOf(placement) ?? []))].sort();

function kindOf({ kind }: Placement): FixEdit['kind'] {
  if (kind === 'css-image') return 'style';
  return kind === 'preload' || kind === 'icon-link' ? 'link' : 'tag';
}

/** The placement whose downloads the fix takes most from; the first of equal ones. */
function exampleOf({ id, placements }: FixGroup, ledger: readonly LedgerEntry[]): Placement | undefined {
  const own = new Set(placements.map((placement) => placement.id));
  const worth = new Map<string, number>();
  for (const { placements: shown, cuts } of ledger) {
    const bytes = cuts.reduce((sum, cut) => (cut.fix === id ? sum + cut.bytes + cut.expected : sum), 0);
    const first = shown.find((each) => own.has(each));
    if (first !== undefined && bytes !== 0) worth.set(first, (worth.get(first) ?? 0) + bytes);
  }
  const isLink = (placement: Placement) => (kindOf(placement) === 'link' ? 1 : 0);
  return [...placements].sort(
    (a, b) => isLink(a) - isLink(b) || (worth.get(b.id) ?? 0) - (worth.get(a.id) ?? 0),
  )[0];
}

/** The checks of a fix, those first whose step saves most. */
function checksOf(own: readonly Kept[], { steps }: Claimed): Check[] {
  const worth = (check: Check) => steps.find(({ kind }) => kind === (check.cut ?? 'repair'))?.expected ?? 0;
  const checks = [...new Set(own.map(({ check }) => check))];
  return checks.sort((a, b) => Math.max(0, worth(b)) - Math.max(0, worth(a)));
}

const mostTitles = 3;

function titleOf(checks: readonly Check[]): string {
  const titles = checks.map(({ about }, index) =>
    index === 0 ? about.title : about.title.charAt(0).toLowerCase() + about.title.slice(1),
  );
  const more = titles.length - mostTitles;
  if (more <= 0) return listed(titles) || 'Follow the other edits';
  return `${titles.slice(0, mostTitles).join(', ')} and ${count(more, 'more thing')}`;
}

function whereOf(
  placements: readonly Placement[],
  pages: readonly string[],
  own: readonly Pick<Kept, 'found'>[],
): string {
  const told = own.reduce((sum, { found: { standsFor = 1 } }) => sum + standsFor, 0);
  if (told > own.length) return `${count(told, 'image')} of the site`;
  const page = pages.length === 1 ? (pages[0] ?? '') : count(pages.length, 'page');
  return `${count(placements.length, 'image')} on ${page}`;
}

/** What the first check says of measured numbers, or that some are estimates. */
function surenessOf(
  made: readonly PlannedFile[],
  checks: readonly Check[],
  { hosts }: Pick<Judgement['facts'], 'hosts'>,
): string {
  const isAsked = made.length > 0 && made.every(({ master }) => hosts?.at(master));
  if (isAsked && made.every(({ error }) => error === 0))
    return 'measured: the image host was asked for these addresses';
  return made.every(({ error }) => error === 0)
    ? (checks[0]?.sureness ?? 'read off the texts')
    : 'estimated: not every width was encoded';
}
