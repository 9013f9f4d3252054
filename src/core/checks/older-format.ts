import { readImageMarkup } from '../markup/index.js';
import type { Placement } from '../run/types.js';
import { defineCheck, type Draft } from './check.js';
import { worst } from './drafts.js';
import {
  filesToEncode,
  findReencodings,
  type Encoded,
  type EncodingEvidence,
  type Reencoding,
} from './encoding-claims.js';
import type { Facts } from './facts.js';
import { pricedFile, stateOn } from './file-state.js';
import { bytesInWords, percent } from './words.js';

/** The newer, the higher. */
const ages: Record<string, number> = { avif: 3, webp: 2, jpeg: 1, png: 1, bmp: 0 };

/** The smallest of the newer formats that the site may use and that the image does not offer already. */
function newest({ placement, state, priced, delivered }: Encoded, facts: Facts): Reencoding | undefined {
  const age = ages[state.format];
  if (age === undefined || delivered.animated) return undefined;
  const offered = new Set((readImageMarkup(placement.markup)?.sources ?? []).map(({ type }) => type));
  let best: Reencoding | undefined;
  for (const format of facts.wishes.formats) {
    if ((ages[format] ?? 0) <= age || offered.has(`image/${format}`)) continue;
    const price = facts.prices.equalLooks(priced.url, format, state.width);
    if (growsSomewhere(placement, format, facts)) continue;
    if (price && (!best || price.bytes < best.price.bytes)) best = { format, price };
  }
  return best;
}

/** A new source is taken by every screen: a drawing that shrinks at one width may grow at another, where it was made smaller. */
function growsSomewhere(placement: Placement, format: string, facts: Facts): boolean {
  return Object.keys(placement.downloads).some((screen) => {
    const state = stateOn(placement, screen, facts);
    if (!state) return false;
    const priced = pricedFile(placement, state, facts);
    const price = priced && facts.prices.equalLooks(priced.url, format, state.width);
    return price !== undefined && price.bytes > state.bytes;
  });
}

/** One format for the whole fix: that of the screen that saves most. */
const formatOf = (draft: Draft<EncodingEvidence>) =>
  worst(draft, ({ saves }) => saves)?.evidence.newFormat ?? 'avif';

export const olderFormat = defineCheck<EncodingEvidence>({
  id: 'older-format',
  about: {
    title: 'Offer a newer format',
    means: 'Nearly every browser takes a newer format, in which the same looks cost fewer bytes.',
    evidence:
      'The bytes of the present format at equal looks, and those of the newer one, at the width that the screen gets.',
    fix: 'A picture with a source of the newer format before the present one, which stays for older browsers; and the files to make.',
    silent:
      'When any screen would take a larger file in that format, when the image offers that format already, when the format saves under the limit for trifles, for animations and for vector pictures.',
  },
  cut: 'newer-format',
  sureness: 'measured: encoded at equal looks, AVIF at its fastest setting, so slower ones give less',
  words(draft) {
    const found = worst(draft, ({ saves }) => saves);
    if (!found) return '';
    const { format, newFormat, bytes, bytesAfter } = found.evidence;
    return (
      `${format.toUpperCase()} takes ${bytesInWords(bytes)} where ${newFormat.toUpperCase()} takes ${bytesInWords(bytesAfter)} ` +
      `(${percent(1 - bytesAfter / bytes)} less) and looks the same (on ${found.screen}).`
    );
  },
  find: (facts) => findReencodings(facts, (encoded) => newest(encoded, facts)),
  remedy(draft, facts) {
    const format = formatOf(draft);
    const tag = draft.placement.kind === 'img' || draft.placement.kind === 'picture';
    return {
      edits: tag ? [{ kind: 'add-source', type: `image/${format}`, extension: format }] : [],
      files: filesToEncode(draft, format, facts),
      notes: [
        tag
          ? `A host that chooses by the Accept header can send the ${format.toUpperCase()} at the present address instead; then it must also answer with “Vary: Accept”.`
          : `Let the host send the ${format.toUpperCase()} at the present address to browsers whose Accept header names it, with “Vary: Accept”.`,
      ],
    };
  },
});
