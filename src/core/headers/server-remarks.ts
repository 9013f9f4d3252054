import type { Draft } from '../judging/check.js';
import type { Facts } from '../judging/facts.js';
import type { ImageAnswer } from '../run/answer-types.js';
import type { Placement } from '../run/types.js';

/** Images that one line in the settings of a server would put right: told once, at the first element that shows one of them. */
export interface ServerRemark {
  placement: Placement;
  /** Screens on which one of them is fetched. */
  screens: Set<string>;
  /** The answers that it is about, by address. */
  answers: Map<string, ImageAnswer>;
}

/** Who sends an address: the audited site, or another host. */
export const senderOf = (url: string): string =>
  url.startsWith('/') || !URL.canParse(url) ? 'the site' : new URL(url).host;

/**
 * Gathers images by what their server would have to change.
 * @param keyOf names that change; undefined for images that are as they should be
 */
export function serverRemarks(
  { placements, answers = new Map() }: Pick<Facts, 'placements' | 'answers'>,
  keyOf: (answer: ImageAnswer, placement: Placement, screen: string) => string | undefined,
): ServerRemark[] {
  const remarks = new Map<string, ServerRemark>();
  if (answers.size === 0) return [];
  for (const placement of placements)
    for (const [screen, { url }] of Object.entries(placement.downloads)) {
      const answer = answers.get(url);
      const key = answer && keyOf(answer, placement, screen);
      if (!answer || key === undefined) continue;
      const remark = remarks.get(key) ?? { placement, screens: new Set(), answers: new Map() };
      remark.answers.set(url, answer);
      // Further screens of the element at which it is told; elsewhere they are the same images.
      if (remark.placement === placement) remark.screens.add(screen);
      remarks.set(key, remark);
    }
  return [...remarks.values()];
}

/** An address of them that stands for all, and how many others there are. */
export function exampleOf({ answers }: ServerRemark): { url: string; others: number } {
  return { url: [...answers.keys()].sort()[0] ?? '', others: answers.size - 1 };
}

/** "/pictures/a.jpg" or "/pictures/a.jpg and 3 more images". */
export const imagesInWords = (url: string, others: number): string =>
  others === 0 ? url : `${url} and ${others} more ${others === 1 ? 'image' : 'images'}`;

/** A remark as a check tells it: the same on every screen on which one of the images is fetched. */
export const draftOf = <E>({ placement, screens, answers }: ServerRemark, evidence: E): Draft<E> => ({
  placement,
  standsFor: answers.size,
  screens: Object.fromEntries([...screens].map((screen) => [screen, evidence])),
});
