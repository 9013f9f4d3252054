import { defineCheck, nothingToPaste } from '../../judging/check.js';
import { bestOutcome } from '../../judging/drafts.js';
import {
  encodedBytes,
  encodedOn,
  findEncodings,
  isTrifle,
  priceAs,
  sourcesOf,
  type Encoded,
  type EncodingEvidence,
} from '../../judging/encodings.js';
import type { Facts } from '../../judging/facts.js';
import { bytesInWords, percent } from '../../wording/words.js';

/** The newer, the higher. */
const ages: Record<string, number> = { avif: 3, webp: 2, jpeg: 1, png: 1, gif: 0, bmp: 0 };

/** Texts that can offer two formats of a file. */
function canOffer({ placement }: Pick<Encoded, 'placement'>, { plan }: Facts): boolean {
  const state = plan.stateOf(placement);
  return state?.form.kind === 'style' || (state?.form.kind === 'tag' && state.wrap !== 'none');
}

/** The smallest of the newer formats that the site may use and that the image does not offer already. */
function newest(encoded: Encoded, facts: Facts): string | undefined {
  const { placement, source, taken } = encoded;
  const age = ages[taken.file.format];
  if (age === undefined || taken.file.animated) return undefined;
  // A source for other screens offers nothing here.
  const others = facts.plan
    .stateOf(placement)
    ?.sources.filter(({ media }) => media === (source?.media ?? null));
  const offered = new Set(others?.map(({ type }) => type));
  let best: { format: string; bytes: number } | undefined;
  for (const format of facts.wishes.formats) {
    if ((ages[format] ?? 0) <= age || offered.has(`image/${format}`)) continue;
    const price = priceAs(encoded, format, facts);
    if (!price || growsSomewhere(encoded, format, facts)) continue;
    // What can only be told, not pasted, has to be worth telling.
    if (!canOffer(encoded, facts) && isTrifle(taken.bytes - price.bytes, taken.bytes, facts)) continue;
    if (!best || price.bytes < best.bytes) best = { format, bytes: price.bytes };
  }
  return best?.format;
}

/** A new source is taken by every screen: a drawing that shrinks at one width may grow at another, where it was made smaller. */
function growsSomewhere({ placement, source }: Encoded, format: string, facts: Facts): boolean {
  return facts.screens.some((screen) => {
    const other = encodedOn(placement, screen, facts);
    if (!other || other.source !== source) return false;
    const price = priceAs(other, format, facts);
    return price !== undefined && price.bytes > other.taken.bytes;
  });
}

export const olderFormat = defineCheck<EncodingEvidence>({
  id: 'older-format',
  about: {
    title: 'Offer a newer format',
    means: 'Nearly every browser takes a newer format, in which the same looks cost fewer bytes.',
    evidence:
      'The bytes of the present format at equal looks, and those of the newer one, at the width that the screen gets.',
    fix: 'A picture with a source of the newer format before the one that is taken, which stays for older browsers; of a style an image-set() with both; and the files to make.',
    silent:
      'When any screen would take a larger file in that format, when the image offers that format already, when the format saves under the limit for trifles, for animations and for vector pictures.',
  },
  cut: 'newer-format',
  sureness: 'measured: encoded at equal looks, AVIF at its fastest setting, so slower ones give less',
  words(draft, facts, outcomes) {
    const found = bestOutcome(draft, outcomes);
    if (!found) return '';
    const { format, newFormat } = found.evidence;
    const bytesAfter = encodedBytes(found, facts);
    return (
      `${format.toUpperCase()} takes ${bytesInWords(found.bytes)} where ${newFormat.toUpperCase()} takes ${bytesInWords(bytesAfter)} ` +
      `(${percent(1 - bytesAfter / found.bytes)} less) and looks the same (on ${found.screen}).`
    );
  },
  find: (facts) => findEncodings(facts, (encoded) => newest(encoded, facts)),
  remedy(draft, facts) {
    const [evidence] = Object.values(draft.screens);
    const format = evidence?.newFormat ?? 'avif';
    if (!canOffer(draft, facts))
      return nothingToPaste(
        `Let the host send the ${format.toUpperCase()} at the present address to browsers whose Accept header names it, with “Vary: Accept”.`,
      );
    return {
      changes: sourcesOf(draft).map((source) => ({
        kind: 'offer-format',
        source,
        format,
        recipe: 'equal-looks',
      })),
      notes: [],
    };
  },
});
