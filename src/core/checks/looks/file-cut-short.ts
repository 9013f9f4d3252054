import { defineCheck, nothingToPaste } from '../../judging/check.js';
import { deliveredFiles } from '../../judging/delivered-files.js';
import { Drafts } from '../../judging/drafts.js';
import { bytesInWords } from '../../wording/words.js';

type CutEvidence = {
  url: string;
  bytes: number;
};

export const fileCutShort = defineCheck<CutEvidence>({
  id: 'file-cut-short',
  about: {
    title: 'Upload the file whole',
    means:
      'The file ends before its picture does: the lower part stays gray or empty, or nothing is shown at all.',
    evidence:
      'The file and its bytes; that they are too few is read in the file itself, by the rules of its format.',
    fix: 'Nothing can be pasted: the file must be copied again from where it is whole.',
    silent:
      'For files that end as their format asks, for GIFs that lack only their last byte, and for formats that do not tell where they end (SVG, ICO).',
  },
  cut: null,
  sureness: 'exact: read in the file',
  words(draft) {
    const [evidence] = Object.values(draft.screens);
    return evidence
      ? `${evidence.url} is cut short: it has ${bytesInWords(evidence.bytes)}, and its picture goes on.`
      : '';
  },
  find(facts) {
    const drafts = new Drafts<CutEvidence>();
    for (const { placement, screen, file } of deliveredFiles(facts))
      if (file.truncated) drafts.add(placement, screen, { url: file.url, bytes: file.bytes });
    return drafts.list();
  },
  remedy: () => nothingToPaste('Copy or export it again; until then nothing else is said of its bytes.'),
});
