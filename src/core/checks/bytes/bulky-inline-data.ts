import { defineCheck, nothingToPaste } from '../../judging/check.js';
import { Drafts, worst } from '../../judging/drafts.js';
import { bytesInWords, percent } from '../../wording/words.js';

type InlineEvidence = {
  /** Bytes of the address as it stands in the markup. */
  bytes: number;
  base64: boolean;
};

/** Up to here, writing a picture into the page is cheaper than a request, bytes. */
const bulky = 4000;

/** The first long address with data in a placement's markup. Without a regular expression: such addresses may have 20 MB. */
function inlineData(markup: string): string | undefined {
  for (let from = markup.indexOf(scheme); from >= 0; from = markup.indexOf(scheme, from + 1)) {
    const quote = markup.charAt(from - 1);
    const end = quote === '"' || quote === "'" ? markup.indexOf(quote, from) : -1;
    if (end - from >= 100) return markup.slice(from, end);
  }
  return undefined;
}

const scheme = 'data:image/';

export const bulkyInlineData = defineCheck<InlineEvidence>({
  id: 'bulky-inline-data',
  about: {
    title: 'Take large pictures out of the page',
    means:
      'The picture is written into the page itself: it holds up the text behind it, comes anew with every page, and cannot wait until it is scrolled to.',
    evidence: 'The bytes of the address as it stands in the page, before compression.',
    fix: 'A file of its own, loaded lazily.',
    silent: `Up to ${bulky} bytes, and for copies that stand in for a file which loads later.`,
  },
  cut: null,
  sureness: 'exact: counted in the page',
  words(draft) {
    const found = worst(draft, ({ bytes }) => bytes);
    if (!found) return '';
    const { bytes, base64 } = found.evidence;
    return `${bytesInWords(bytes)} of picture stand in the page itself${base64 ? `, ${percent(1 / 3)} more than in a file` : ''}.`;
  },
  find(facts) {
    const drafts = new Drafts<InlineEvidence>();
    for (const placement of facts.placements) {
      const data = inlineData(placement.markup);
      if (data === undefined || data.length < bulky) continue;
      for (const { name } of facts.screens)
        if (placement.shown[name])
          drafts.add(placement, name, { bytes: data.length, base64: /;base64,/.test(data) });
    }
    return drafts.list();
  },
  remedy: () =>
    nothingToPaste(
      'Save the picture as a file of its own, name it in src, and give the tag width, height and loading="lazy" where it is not in the first view.',
    ),
});
