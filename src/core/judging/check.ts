import type { CutKind } from '../bytes/cuts.js';
import { isPixelArt } from '../layout/pixel-art.js';
import type { Change } from '../plan/changes.js';
import type { TagEdit } from '../plan/tag.js';
import type { Taken } from '../plan/taken.js';
import type { ImageFile, Placement } from '../run/types.js';
import type { Facts } from './facts.js';

/** What a check saw on one screen, as it goes into the run. */
export type Evidence = Record<string, string | number | boolean | null>;

/** What a check saw of a placement, screen by screen. */
export interface Draft<E> {
  placement: Placement;
  screens: Record<string, E>;
  /** Of what is told at one image for many: how many images of the site it is about. */
  standsFor?: number;
}

/** How a finding is mended. It claims nothing: what that saves is read off the texts. */
export interface Remedy {
  /** Empty where nothing can be pasted. */
  changes: readonly Change[];
  /** Id of the image that a preload is to ask for, whatever that takes. */
  follows?: string;
  notes: readonly string[];
  /** Whether the head of the page is to ask early for what the image takes once all is made: told before the notes. */
  preloads?: true;
  /** What is to be done by hand to the tag, shown as it looks then; it is not promised. */
  suggests?: readonly TagEdit[];
}

export const nothingToPaste = (...notes: string[]): Remedy => ({ changes: [], notes });

/** What stands beside markup in a fix and has to be made first. */
export type OfferWish =
  | { kind: 'placeholder'; url: string }
  /** Widths in device px. */
  | { kind: 'crop'; url: string; widths: readonly number[] }
  | { kind: 'sheet'; page: string; files: readonly ImageFile[] };

/** What one screen takes before and after the change that a finding asks for. */
export interface Outcome {
  before: Taken | undefined;
  after: Taken | undefined;
}

export type Outcomes = Readonly<Record<string, Outcome>>;

/** The parts of a check's documentation, each one or two sentences. */
export interface About {
  title: string;
  means: string;
  evidence: string;
  fix: string;
  silent: string;
}

/** What a check's own file says. */
export interface Rule<E extends Evidence> {
  id: string;
  about: About;
  /** Its place in the ledger; null for a finding that costs no bytes by itself. */
  cut: Exclude<CutKind, 'repair'> | null;
  /** How sure the number is where all of it was measured. */
  sureness: string;
  /** Whether it asks for other pixels, which says nothing of pictures whose pixels are each to be seen for themselves. */
  asksForPixels?: true;
  /** What its fixes need beside markup. */
  wants?(facts: Facts): OfferWish[];
  find(facts: Facts): Draft<E>[];
  words(draft: Draft<E>, facts: Facts, outcomes: Outcomes): string;
  remedy(draft: Draft<E>, facts: Facts): Remedy;
}

/** One thing that a check found. */
export interface Case extends Draft<Evidence> {
  words(outcomes: Outcomes): string;
  remedy(): Remedy;
}

/** A check as the judge sees it: whatever its evidence is, it stays in its own file. */
export interface Check extends Pick<Rule<Evidence>, 'id' | 'about' | 'cut' | 'sureness'> {
  wants(facts: Facts): OfferWish[];
  examine(facts: Facts): Case[];
}

export function defineCheck<E extends Evidence>(rule: Rule<E>): Check {
  const { id, about, cut, sureness } = rule;
  return {
    id,
    about,
    cut,
    sureness,
    wants: (facts) => guarded(rule, aboutOf(rule, facts), (some) => rule.wants?.(some) ?? []),
    examine: (facts) =>
      guarded(rule, aboutOf(rule, facts), (some) => rule.find(some)).map((draft) => ({
        ...draft,
        words: (outcomes) => rule.words(draft, facts, outcomes),
        remedy: () => rule.remedy(draft, facts),
      })),
  };
}

/** The facts of the placements that a check is about. */
function aboutOf({ asksForPixels }: Pick<Rule<Evidence>, 'asksForPixels'>, facts: Facts): Facts {
  const { placements, screens } = facts;
  if (!asksForPixels || !placements.some((each) => isPixelArt(each, screens))) return facts;
  return { ...facts, placements: placements.filter((each) => !isPixelArt(each, screens)) };
}

/** What a check says of all placements but those at which it fails. */
function guarded<Item>({ id }: Pick<Check, 'id'>, facts: Facts, work: (facts: Facts) => Item[]): Item[] {
  const { placements, faults } = facts;
  const what = checkInWords(id);
  try {
    return work(facts);
  } catch (cause) {
    const sound = placements.filter(
      (placement) =>
        faults.attempt(what, placement, () => work({ ...facts, placements: [placement] })) !== undefined,
    );
    // It fails at several together: nobody can say at which.
    if (sound.length === placements.length) {
      faults.note(what, { page: '' }, cause);
      return [];
    }
    return faults.attempt(what, { page: '' }, () => work({ ...facts, placements: sound })) ?? [];
  }
}

export const checkInWords = (id: string) => `the check "${id}"`;
