import { candidateUrls, parseImage, readImageMarkup } from '../markup/index.js';
import { resolveAddress } from '../plan/addresses.js';
import type { Placement } from '../run/types.js';

/** The addresses that an image has in the page as it is served, whatever a script makes of it later. */
export function writtenAddresses({ markup, base }: Pick<Placement, 'markup' | 'base'>): string[] {
  const written = readImageMarkup(markup);
  if (!written) return [];
  return candidateUrls(parseImage(written)).map((url) => resolveAddress(url, base).replace(/#.*$/s, ''));
}
