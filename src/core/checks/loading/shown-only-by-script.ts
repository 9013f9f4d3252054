import { defineCheck, nothingToPaste } from '../../judging/check.js';
import { Drafts } from '../../judging/drafts.js';
import type { Facts } from '../../judging/facts.js';
import { writtenAddresses } from '../../judging/written-addresses.js';
import { readName } from '../../plan/file-names.js';
import { attributeOf } from '../../plan/tag.js';
import type { Placement } from '../../run/types.js';

type ScriptEvidence = {
  url: string;
};

/** Whether a version of a file was shown, such as the larger one that a noscript element still names. */
function showsVersion(shown: readonly string[], url: string, { files }: Facts): boolean {
  const unknown = { width: 0, height: 0 };
  const nameOf = (each: string) => {
    const { folder, stem } = readName(each, files.get(each) ?? unknown);
    return folder + stem;
  };
  const own = nameOf(url);
  return shown.some((each) => {
    const [short = '', long = ''] = [nameOf(each), own].sort((a, b) => a.length - b.length);
    return each === url || (long.startsWith(short) && /^([-_.@]|$)/.test(long.slice(short.length)));
  });
}

/** Whether a script made an image as part of a button. */
const isOfMadeButton = ({ source, template }: Placement) =>
  source === null && template.split(' > ').some((link) => /^button(?![\w-])/.test(link));

export const shownOnlyByScript = defineCheck<ScriptEvidence>({
  id: 'shown-only-by-script',
  about: {
    title: 'Show the image without script too',
    means:
      'The image has no address until a script gives it one: where the script fails or is off there is nothing, and the browser finds the image late.',
    evidence:
      'The address that the script gives, and a load of the page without script in which no file of this image was fetched.',
    fix: 'The tag with its addresses in src and srcset, and loading="lazy" instead of the script.',
    silent:
      'When the page without script fetches any file that the image could take, for instance from a noscript element, or a small one that the script replaces. For images of buttons that a script made: without it they could do nothing.',
  },
  cut: null,
  sureness: 'observed in the browser: the page was loaded once without script',
  words(draft) {
    const [evidence] = Object.values(draft.screens);
    return evidence
      ? `${evidence.url} is shown by a script; without script nothing stands in its place.`
      : '';
  },
  find(facts) {
    const drafts = new Drafts<ScriptEvidence>();
    const withoutScript = new Map(facts.pages.map((page) => [page.path, page.withoutScript]));
    for (const placement of facts.placements) {
      const seen = withoutScript.get(placement.page);
      if (!seen || (placement.kind !== 'img' && placement.kind !== 'picture')) continue;
      if (isOfMadeButton(placement)) continue;
      const shown = new Set(seen.urls);
      // A small picture that a script replaces stands there without script too.
      if ([...placement.candidates, ...writtenAddresses(placement)].some((url) => shown.has(url))) continue;
      for (const [screen, { url }] of Object.entries(placement.downloads)) {
        if (placement.shown[screen]?.state === 'drawn' && !showsVersion(seen.urls, url, facts))
          drafts.add(placement, screen, { url });
      }
    }
    return drafts.list();
  },
  remedy({ placement }) {
    const value = (name: string) => attributeOf(placement.markup, `data-${name}`);
    const named = ['src', 'srcset', 'sizes'].flatMap((name) => {
      const text = value(name);
      return text === undefined ? [] : [{ kind: 'set', name, value: text } as const];
    });
    if (named.length === 0)
      return nothingToPaste(
        'Write the image into the page as it is served, or give the page a noscript element with it.',
      );
    return {
      changes: [],
      suggests: [
        ...named,
        ...['src', 'srcset', 'sizes'].map((name) => ({ kind: 'remove', name: `data-${name}` }) as const),
        { kind: 'set', name: 'loading', value: 'lazy' },
      ],
      notes: [
        'Then the script is not needed for this image; what it does beside must be taken over by hand.',
      ],
    };
  },
});
