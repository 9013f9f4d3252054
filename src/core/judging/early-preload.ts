import { viewOf } from '../layout/view-of.js';
import type { ImageState } from '../plan/image-state.js';
import { followingSources } from '../plan/link.js';
import { readText } from '../plan/pick-text.js';
import { writeState, type NameOf } from '../plan/write-state.js';
import type { Placement } from '../run/types.js';
import { listed } from '../wording/words.js';
import type { Facts } from './facts.js';
import { sourceIndex } from './follow.js';

const link = (url: string) => `<link rel="preload" as="image" href="${url}" fetchpriority="high">`;

/**
 * What to write into the head of a page so that browsers ask early for what an image takes once all is made: a preload of a file that is replaced
 * would be fetched beside the new one.
 * @param on names of the screens on which it should come early
 * @param nameOf the names that the files get
 */
export function earlyPreload(
  placement: Placement,
  on: readonly string[],
  facts: Facts,
  nameOf: NameOf,
): string[] {
  const { plan, screens } = facts;
  const state = plan.stateOf(placement);
  const text = state ? linksOf(placement, state, on, facts, nameOf) : undefined;
  const [first = ''] = on.flatMap((name) => placement.downloads[name]?.url ?? []);
  if (text === undefined && plan.isChanged(placement))
    return ['Write a preload into the head for what it takes on each screen once the other edits are made.'];
  const elsewhere = screens.filter(({ name }) => !plan.taken(placement, name)).map(({ name }) => name);
  return [
    `Write into the head: ${(text ?? link(first)).replace(/\s*\n\s*/g, ' ')}`,
    ...(elsewhere.length > 0
      ? [`It is not shown on ${listed(elsewhere)}: give the link a media condition that leaves these out.`]
      : []),
  ];
}

/** Links for the sources that are taken on some screens; undefined where they would ask for something else. */
function linksOf(
  placement: Placement,
  state: ImageState,
  on: readonly string[],
  { plan, screens }: Facts,
  nameOf: NameOf,
): string | undefined {
  const shown = screens.flatMap((screen) => {
    const file = on.includes(screen.name) ? plan.taken(placement, screen.name)?.file : undefined;
    return file ? [{ screen, file }] : [];
  });
  const taken = new Set(shown.map(({ file }) => sourceIndex(state, file.id)));
  if (taken.size === 0 || taken.has(-1)) return undefined;
  const form = { kind: 'link' } as const;
  const sources = followingSources(state, taken);
  const links = writeState(
    { ...state, form, markup: link(''), like: '/', base: '/', sources, edits: [] },
    nameOf,
  );
  const read = readText(links, form, '/');
  const agrees = screens.every((screen) => {
    const file = plan.taken(placement, screen.name)?.file;
    const asked = read(viewOf(placement, screen), placement.slots[screen.name]?.width)?.url;
    return file === undefined || (asked === undefined && !on.includes(screen.name)) || asked === nameOf(file);
  });
  return agrees ? links : undefined;
}
