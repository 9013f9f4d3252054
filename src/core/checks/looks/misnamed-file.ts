import { isTypeOf } from '../../headers/media-types.js';
import { defineCheck, nothingToPaste } from '../../judging/check.js';
import { deliveredFiles } from '../../judging/delivered-files.js';
import { Drafts } from '../../judging/drafts.js';

type NameEvidence = {
  url: string;
  /** What the ending says. */
  named: string;
  /** What the file is. */
  format: string;
};

/** Endings that say what a file is. */
const endings: Record<string, string> = {
  jpg: 'jpeg',
  jpeg: 'jpeg',
  jpe: 'jpeg',
  jfif: 'jpeg',
  png: 'png',
  gif: 'gif',
  webp: 'webp',
  avif: 'avif',
  svg: 'svg',
  bmp: 'bmp',
  ico: 'ico',
};

function namedFormat(url: string): string | undefined {
  const [path = ''] = url.split(/[?#]/);
  return endings[/\.([a-z]+)$/i.exec(path)?.[1]?.toLowerCase() ?? ''];
}

export const misnamedFile = defineCheck<NameEvidence>({
  id: 'misnamed-file',
  about: {
    title: 'Name the file by what it holds',
    means:
      'The ending says one format and the file is of another: hosts send it with the wrong type, build steps skip or break it, and a source with a type is passed over.',
    evidence: 'The format by the ending, and the one by the content. All other findings go by the content.',
    fix: 'Nothing can be pasted: rename the file, or store it in the format of its name, and change the address.',
    silent:
      'Where the server says what it sends; for files without an ending, for endings that name no format of pictures, and for icons, of which browsers take any format under .ico.',
  },
  cut: null,
  sureness: 'exact: read in the file',
  words(draft) {
    const [evidence] = Object.values(draft.screens);
    return evidence
      ? `${evidence.url} holds a picture in ${evidence.format.toUpperCase()}, not in ${evidence.named.toUpperCase()} as its name says.`
      : '';
  },
  find(facts) {
    const drafts = new Drafts<NameEvidence>();
    for (const { placement, screen, file } of deliveredFiles(facts)) {
      if (file.problem !== undefined || file.format === 'unknown') continue;
      const named = namedFormat(file.url);
      // A host that chooses the format keeps the name, and says what it sends.
      const isTold = isTypeOf(facts.answers?.get(file.url)?.type ?? '', file.format);
      if (named !== undefined && named !== 'ico' && named !== file.format && !isTold)
        drafts.add(placement, screen, { url: file.url, named, format: file.format });
    }
    return drafts.list();
  },
  remedy: () => nothingToPaste(),
});
