import type { TrifleLimits } from '../bytes/trifles.js';
import type { Sharpness } from '../layout/sharpness.js';
import type { Exceptions } from './exceptions.js';
import { Faults } from './faults.js';
import { FramedTexts } from './framed-texts.js';
import { PageProtections } from './page-protections.js';
import { Plan, type PlanInput } from '../plan/plan.js';
import type { ImageAnswer, IconSheet, OfferedCrop, Placeholder } from '../run/types.js';

/** Everything that was observed and measured, as plain values, and what the user wants. */
export interface World extends Omit<PlanInput, 'keepCredits' | 'sharpness'> {
  /** What could stand in for a picture while it is awaited, by its URL. */
  placeholders: ReadonlyMap<string, Placeholder>;
  /** Where most happens in wide pictures, by URL. */
  crops: ReadonlyMap<string, OfferedCrop>;
  /** One sheet of a page's tiny files, by page. */
  sheets: ReadonlyMap<string, IconSheet>;
  /** What servers said of images, by address; nothing is known if left out. */
  answers?: ReadonlyMap<string, ImageAnswer>;
  wishes: Wishes;
  /** Findings that are not to be told; none if left out. */
  exceptions?: Exceptions;
  /** Where faults of the program are noted; thrown away if left out. */
  faults?: Faults;
}

/** Newer formats that the site may use, and what else the user set. */
export interface Wishes {
  /** Formats that may be proposed, best first. */
  formats: readonly string[];
  trifles: TrifleLimits;
  /** Whether the names of author and licence stay in the files. */
  keepCredits: boolean;
  /** Whether crops for narrow screens are offered to be pasted, though nobody has looked at them. */
  crops: boolean;
  /** The density up to which pictures are to be sharp; Infinity for each screen's own. */
  sharpness: Sharpness;
}

/** What the checks may know: the world, and what the plan has made of it so far. */
export interface Facts extends World {
  plan: Plan;
  faults: Faults;
  /** Images that one text shows on a page and in frames. */
  framed: FramedTexts;
  /** What pages are protected by against other texts than their own. */
  protections: PageProtections;
}

/** The world with a plan of which nothing is made yet. */
export function factsOf(world: World): Facts {
  return {
    ...world,
    plan: new Plan({ ...world, ...world.wishes }),
    faults: world.faults ?? new Faults(),
    framed: new FramedTexts(world),
    protections: new PageProtections(world.pages),
  };
}
