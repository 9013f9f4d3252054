import { environmentOf, pickImage, type ParsedImage } from '../../markup/index.js';
import type { ImageFile, Placement, Screen } from '../../run/types.js';
import { fileOf, imageOf } from '../../judging/choice.js';
import { sharpDensity } from '../../layout/sharpness.js';
import { viewOf } from '../../layout/view-of.js';
import { defineCheck } from '../../judging/check.js';
import { bestOutcome, Drafts } from '../../judging/drafts.js';
import type { Facts } from '../../judging/facts.js';
import { bytesInWords } from '../../wording/words.js';

type OrderEvidence = {
  taken: string;
  hidden: string;
  /** Positions among the `source` elements, from 0. */
  from: number;
  to: number;
};

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
  const environment = environmentOf(viewOf(placement, screen));
  const pick = pickImage(image, environment);
  const taken = pick && fileOf(pick.url, placement, facts);
  if (!pick || !taken) return undefined;
  const needed =
    (placement.shown[screen.name]?.drawnWidth ?? 0) * sharpDensity(screen, facts.wishes.sharpness);
  let best: Hidden | undefined;
  for (let index = pick.source + 1; index < image.sources.length; index++) {
    if (image.sources[index]?.element !== 'source') continue;
    const alone: ParsedImage = { ...image, sources: image.sources.slice(index, index + 1) };
    const other = pickImage(alone, environment);
    const hidden = other && fileOf(other.url, placement, facts);
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
  words(draft, _, outcomes) {
    const found = bestOutcome(draft, outcomes);
    if (!found) return '';
    const { taken, hidden } = found.evidence;
    return `On ${found.screen} ${taken} is taken (${bytesInWords(found.bytes)}); ${hidden} (${bytesInWords(found.bytesAfter)}) stands behind it and is never reached.`;
  },
  find(facts) {
    const drafts = new Drafts<OrderEvidence>();
    for (const placement of facts.placements) {
      for (const screen of facts.screens) {
        const found = placement.downloads[screen.name] && hiddenBehind(placement, screen, facts);
        if (!found) continue;
        const { taken, hidden, from, to } = found;
        drafts.add(placement, screen.name, { taken: taken.url, hidden: hidden.url, from, to });
      }
    }
    return drafts.list();
  },
  remedy({ screens }) {
    const [evidence] = Object.values(screens);
    return {
      changes: evidence ? [{ kind: 'move-source', from: evidence.from, to: evidence.to }] : [],
      notes: [],
    };
  },
});
