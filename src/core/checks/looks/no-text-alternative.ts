import { defineCheck, nothingToPaste } from '../../judging/check.js';
import { Drafts } from '../../judging/drafts.js';

type TextEvidence = {
  /** What stands in the attribute; null where there is none. */
  alt: string | null;
};

const extensions = /\.(jpe?g|png|gif|webp|avif|svg|bmp|tiff?)$/i;
const cameraNames = /^(img|dsc|dscf|dscn|pict|p|image|photo|screenshot|untitled)[\s_-]*\d*$/i;

/** Whether a text is the name of a file rather than words about a picture. */
const isFileName = (text: string) => extensions.test(text.trim()) || cameraNames.test(text.trim());

export const noTextAlternative = defineCheck<TextEvidence>({
  id: 'no-text-alternative',
  about: {
    title: 'Say what the picture shows',
    means: 'Whoever does not see the picture gets nothing, or the name of a file read out.',
    evidence: 'The attribute as it stands.',
    fix: 'Words about the picture in alt; alt="" if it adds nothing.',
    silent: 'When alt is there, also when it is empty: that says that the picture is ornament.',
  },
  cut: null,
  sureness: 'exact: read in the page',
  words(draft) {
    const [evidence] = Object.values(draft.screens);
    if (!evidence) return '';
    return evidence.alt === null
      ? 'The image has no alt attribute.'
      : `The alt attribute is the name of a file: “${evidence.alt}”.`;
  },
  find(facts) {
    const drafts = new Drafts<TextEvidence>();
    for (const placement of facts.placements) {
      const { kind, alt, markup } = placement;
      if (kind !== 'img' && kind !== 'picture' && kind !== 'input') continue;
      if (/\srole="(presentation|none)"|\saria-(hidden="true"|label)/.test(markup)) continue;
      if (alt !== null && !isFileName(alt)) continue;
      for (const { name } of facts.screens)
        if (placement.shown[name]?.seen) drafts.add(placement, name, { alt });
    }
    return drafts.list();
  },
  remedy: () =>
    nothingToPaste('Write into alt what a reader would miss; alt="" only if nothing would be missed.'),
});
