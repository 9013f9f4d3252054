import { environmentOf, pickImage, type ParsedImage } from '../markup/index.js';
import type { ImageFile, Placement, Screen } from '../run/types.js';
import { fileOf, imageOf } from './choice.js';
import { defineCheck, type Evidence } from './check.js';
import { Drafts, worst } from './drafts.js';
import type { Facts } from './facts.js';
import { existingFile } from './file-state.js';
import { claimEvidence, claimTogether } from './shared-claims.js';
import { sharedDownloads } from './shared-downloads.js';
import { bytesInWords } from './words.js';

interface OrderEvidence extends Evidence {
  taken: string;
  hidden: string;
  /** Positions among the `source` elements, from 0. */
  from: number;
  to: number;
  bytes: number;
  bytesAfter: number;
}

interface Hidden {
  taken: ImageFile;
  hidden: ImageFile;
  from: number;
  to: number;
}

/** The best file of another format in a source that stands behind the one that is taken. */
function hiddenBehind(placement: Placement, screen: Screen, facts: Facts): Hidden | undefined {
  const image = imageOf(placement);
  if (!image || placement.kind !== 'picture') return undefined;
  const environment = environmentOf(screen);
  const pick = pickImage(image, environment);
  const taken = pick && fileOf(pick.url, image, placement, facts);
  if (!pick || !taken) return undefined;
  const needed = (placement.shown[screen.name]?.drawnWidth ?? 0) * screen.density;
  let best: Hidden | undefined;
  for (let index = pick.source + 1; index < image.sources.length; index++) {
    if (image.sources[index]?.element !== 'source') continue;
    const alone: ParsedImage = { ...image, sources: image.sources.slice(index, index + 1) };
    const other = pickImage(alone, environment);
    const hidden = other && fileOf(other.url, image, placement, facts);
    if (!hidden || hidden.format === taken.format || hidden.bytes >= (best?.hidden ?? taken).bytes) continue;
    // A file that is smaller because it has fewer pixels than the screen needs is not the better one.
    if (hidden.width < Math.min(taken.width, needed) * 0.95) continue;
    best = { taken, hidden, from: index, to: pick.source };
  }
  return best;
}

export const sourceOrder = defineCheck<OrderEvidence>({
  id: 'source-order',
  about: {
    title: 'Put the better source first',
    means:
      'A picture takes its first source that fits; a smaller format stands behind it and is never taken.',
    evidence: 'The file that is taken and the one that is hidden, with their bytes.',
    fix: 'The picture with its sources in the better order.',
    silent: 'When the hidden file is of the same format or not smaller.',
  },
  cut: 'newer-format',
  sureness: 'exact: both files are there',
  words(draft) {
    const found = worst(draft, ({ saves }) => saves);
    if (!found) return '';
    const { taken, hidden, bytes, bytesAfter } = found.evidence;
    return `On ${found.screen} ${taken} is taken (${bytesInWords(bytes)}); ${hidden} (${bytesInWords(bytesAfter)}) stands behind it and is never reached.`;
  },
  find(facts) {
    const drafts = new Drafts<OrderEvidence>();
    for (const download of sharedDownloads(facts.placements)) {
      const screen = facts.screens.find(({ name }) => name === download.screen);
      if (!screen) continue;
      const claims = claimTogether(download, facts, (placement) => {
        const hidden = hiddenBehind(placement, screen, facts)?.hidden;
        return hidden && existingFile(hidden);
      });
      if (claims.length < download.placements.length) continue;
      for (const claim of claims) {
        const { placement } = claim;
        const found = hiddenBehind(placement, screen, facts);
        if (!found) continue;
        drafts.add(placement, screen.name, {
          ...claimEvidence(claim),
          taken: found.taken.url,
          hidden: found.hidden.url,
          from: found.from,
          to: found.to,
          bytes: download.bytes,
          bytesAfter: found.hidden.bytes,
        });
      }
    }
    return drafts.list();
  },
  remedy(draft) {
    const [evidence] = Object.values(draft.screens);
    return {
      edits: evidence ? [{ kind: 'move-source', from: evidence.from, to: evidence.to }] : [],
      files: [],
      notes: [],
    };
  },
});
