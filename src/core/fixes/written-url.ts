import { candidateUrls, parseImage, readImageMarkup } from '../markup/index.js';
import type { Placement } from '../run/types.js';

/** The address of a candidate as the markup writes it. */
export function writtenUrl(placement: Placement, url: string): string {
  const markup = readImageMarkup(placement.markup);
  const written = markup ? candidateUrls(parseImage(markup)) : [];
  return written[placement.candidates.indexOf(url)] ?? url;
}
