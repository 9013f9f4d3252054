import { defineCheck, nothingToPaste } from '../../judging/check.js';
import { Drafts } from '../../judging/drafts.js';

type TextEvidence = {
  /** What stands in the attribute; null where there is none. */
  alt: string | null;
};

const extensions = /\.(jpe?g|png|gif|webp|avif|svg|bmp|tiff?)$/i;
/** With the number that a camera or a program gives. */
const cameraNames = /^(img|dsc|dscf|dscn|pict|p|image|photo|screenshot|screen shot|untitled)[\s_-]*\d+$/i;
/** Words that stand where words about the picture are still to come. */
const fillers =
  /^(img|image|images|photo|picture|pic|graphic|screenshot|thumbnail|thumb|banner|placeholder|untitled|alt|alt text|todo|tbd|xxx|null|undefined)$/i;

/** Why a text says nothing about a picture; undefined where it may. */
function whyEmpty(text: string): string | undefined {
  const words = text.trim();
  if (words === '') return undefined;
  if (extensions.test(words) || cameraNames.test(words)) return 'is the name of a file';
  // Letters and digits of any script; a sign by itself may well be what a picture shows.
  if (!/[\p{L}\p{N}\p{S}]/u.test(words)) return 'holds no word';
  return fillers.test(words) ? 'says only that there is a picture' : undefined;
}

export const noTextAlternative = defineCheck<TextEvidence>({
  id: 'no-text-alternative',
  about: {
    title: 'Say what the picture shows',
    means: 'Whoever does not see the picture gets nothing, or the name of a file or a filler read out.',
    evidence: 'The attribute as it stands.',
    fix: 'Words about the picture in alt; alt="" if it adds nothing.',
    silent:
      'When alt holds words, also when it is empty: that says that the picture is ornament. Whether the words are good is not judged.',
  },
  cut: null,
  sureness: 'exact: read in the page',
  words(draft) {
    const [evidence] = Object.values(draft.screens);
    if (!evidence) return '';
    return evidence.alt === null
      ? 'The image has no alt attribute.'
      : `The alt attribute ${whyEmpty(evidence.alt) ?? 'is empty'}: “${evidence.alt}”.`;
  },
  find(facts) {
    const drafts = new Drafts<TextEvidence>();
    for (const placement of facts.placements) {
      const { kind, alt, markup } = placement;
      if (kind !== 'img' && kind !== 'picture' && kind !== 'input') continue;
      if (/\srole="(presentation|none)"|\saria-(hidden="true"|label)/.test(markup)) continue;
      if (alt !== null && whyEmpty(alt) === undefined) continue;
      for (const { name } of facts.screens)
        if (placement.shown[name]?.seen) drafts.add(placement, name, { alt });
    }
    return drafts.list();
  },
  remedy: () =>
    nothingToPaste('Write into alt what a reader would miss; alt="" only if nothing would be missed.'),
});
