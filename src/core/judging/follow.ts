import type { ImageState, SourceState } from '../plan/image-state.js';
import { followingSources } from '../plan/link.js';
import { lastStage, type Plan } from '../plan/plan.js';
import type { Placement, Screen } from '../run/types.js';
import type { Facts } from './facts.js';
import { placementsOn } from './page-placements.js';

/** A preload that is to ask for what an image takes, from a stage on. */
export interface Following {
  preload: Placement;
  /** Id of the image. */
  image: string;
  from: number;
}

/**
 * A preload asks for a file by its address, so it has to change with the image that it was written for; else the page fetches the old file
 * beside the new one. Where links cannot say what the image takes, the preload is left out.
 */
export function followPreloads(facts: Facts, told: readonly Following[]): void {
  const byId = new Map(facts.placements.map((placement) => [placement.id, placement]));
  for (const preload of facts.placements)
    if (preload.kind === 'preload' && facts.plan.stateOf(preload))
      facts.faults.attempt('writing a preload', preload, () => {
        const order = told.find((each) => each.preload === preload);
        follow(preload, order, order && byId.get(order.image), facts);
      });
}

function follow(
  preload: Placement,
  order: Following | undefined,
  wanted: Placement | undefined,
  { plan, placements, screens }: Facts,
): void {
  const image = order ? wanted : imageOf(preload, placements, plan, screens);
  if (!image) return;
  const start = order?.from ?? Number.POSITIVE_INFINITY;
  for (let stage = 1; stage <= lastStage; stage++) {
    if (stage !== start && !plan.isChanged(image, stage)) continue;
    if (stage < start && order) continue;
    const state = linkFor(preload, image, stage, plan, screens);
    if (state) plan.change(preload, stage, state);
  }
}

/** The first image of the page that takes what the preload asks for, on some screen. */
function imageOf(
  preload: Placement,
  placements: readonly Placement[],
  plan: Plan,
  screens: readonly Screen[],
): Placement | undefined {
  const urlOf = (placement: Placement, name: string) => plan.taken(placement, name, 0)?.file.url;
  return placementsOn(preload.page, placements).find(
    (placement) =>
      placement.kind !== 'preload' &&
      plan.isChanged(placement) &&
      screens.some(({ name }) => {
        const url = urlOf(preload, name);
        return url !== undefined && urlOf(placement, name) === url;
      }),
  );
}

function linkFor(
  preload: Placement,
  image: Placement,
  stage: number,
  plan: Plan,
  screens: readonly Screen[],
): ImageState | undefined {
  const [own, leader] = [plan.stateOf(preload, 0), plan.stateOf(image, stage)];
  if (!own || !leader) return undefined;
  const served = screens.filter(({ name }) => plan.taken(image, name, stage) !== undefined);
  const taken = new Set(
    served.map(({ name }) => sourceIndex(leader, plan.taken(image, name, stage)?.file.id)),
  );
  const following: ImageState = {
    ...own,
    // Both texts stand in one page, or the addresses of a style are written from the root.
    like: leader.base === own.base ? leader.like : own.like,
    sources: followingSources(leader, taken).map((source) =>
      withTypeOf(source, own.sources[0]?.type ?? null),
    ),
  };
  const agrees = screens.every(({ name }) => {
    const wanted = plan.taken(image, name, stage);
    const asked = plan.takenWith(preload, following, name);
    return !preload.downloads[name] || asked?.file.id === wanted?.file.id;
  });
  return agrees ? following : { ...own, sources: [] };
}

/** The source of a state that offers a file. */
export const sourceIndex = (state: ImageState, id: string | undefined) =>
  state.sources.findIndex(({ rungs }) => rungs.some(({ file }) => file.id === id));

/** An image needs no type; a link that has one keeps it where it is still true. */
function withTypeOf(source: SourceState, type: string | null): SourceState {
  const isTrue = source.rungs.every(({ file }) => `image/${file.format}` === type);
  return source.type === null && isTrue ? { ...source, type } : source;
}
