import type { Price, PriceList } from '../bytes/price-list.js';
import type { ImageFile, Recipe } from '../run/types.js';
import type { CandidateProposal } from './proposal.js';

/** How other widths of what a source offers are made. */
export interface Making {
  from: ImageFile;
  format: string;
  recipe: Extract<Recipe, 'resized' | 'equal-looks'>;
}

/** Other widths are made of the best file that the source offers, or of the original that another one does. */
export const makingOf = ({ master, original }: CandidateProposal): Making =>
  original
    ? { from: original, format: master.format, recipe: 'equal-looks' }
    : { from: master, format: master.format, recipe: 'resized' };

/** What a version of another width weighs. Width in device px. */
export function priceOfWidth(
  proposal: CandidateProposal,
  width: number,
  prices: PriceList,
): Price | undefined {
  const { from, format, recipe } = makingOf(proposal);
  return recipe === 'resized' ? prices.alike(from.url, width) : prices.equalLooks(from.url, format, width);
}
