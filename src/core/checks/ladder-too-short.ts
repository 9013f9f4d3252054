import { byteCurve } from '../bytes/byte-curve.js';
import { nameAtWidth } from '../fixes/file-names.js';
import { choiceOn, editSource, fileOf, imageOf, sourcesWithWidths, widthCandidates } from './choice.js';
import { defineCheck, type Draft, type Evidence, type Remedy } from './check.js';
import { Drafts, worst } from './drafts.js';
import type { Facts } from './facts.js';
import { group } from './words.js';

interface ShortEvidence extends Evidence {
  largestWidth: number;
  /** Device px that the screen could show. */
  wantedWidth: number;
  upscale: number;
}

/** Enlarged by less than this, a photograph still looks sharp on a dense screen. */
const visible = 1.3;

function remedy(draft: Draft<ShortEvidence>, facts: Facts): Remedy {
  const { placement } = draft;
  const image = imageOf(placement);
  if (!image) return { edits: [], files: [], notes: [] };
  const wanted = [...new Set(Object.values(draft.screens).map(({ wantedWidth }) => wantedWidth))].sort(
    (a, b) => a - b,
  );
  const files: Remedy['files'] = [];
  const edits = sourcesWithWidths(image).map((index) => {
    const source = image.sources[index];
    const present = source ? widthCandidates(source) : [];
    const largest = present.reduce(
      (best, each) => ((each.width ?? 0) > (best?.width ?? 0) ? each : best),
      present[0],
    );
    const file = largest && fileOf(largest.url, image, placement, facts);
    const added = wanted.map((width) => ({ url: nameAtWidth(largest?.url ?? '', width), width }));
    if (file) {
      const bytesAt = byteCurve([file]);
      for (const { width } of added)
        files.push({
          name: nameAtWidth(file.url, width),
          from: file.url,
          width,
          format: file.format,
          bytes: Math.round(bytesAt(width)),
          quality: null,
          error: 0.3,
        });
    }
    const ladder = [...present, ...added].map(({ url, width = 0 }) => `${url} ${width}w`);
    return editSource(image, index, 'srcset', ladder.join(', '));
  });
  return {
    edits,
    files,
    notes: [
      'Make the larger files from the original, not from the largest one here. Their bytes are estimates (±30 %).',
    ],
  };
}

export const ladderTooShort = defineCheck<ShortEvidence>({
  id: 'ladder-too-short',
  about: {
    title: 'Offer larger widths',
    means:
      'The largest file that srcset offers is smaller than what the screen can show, so the picture is blurred.',
    evidence:
      'The largest width offered, the width that the screen can show in device px, and by how much the file is enlarged.',
    fix: 'The tag with the widths added, and the files to make from the original.',
    silent: 'When the file is enlarged by less than 1.3 times on every screen.',
  },
  cut: null,
  sureness: 'exact: the slot was measured and the files were read',
  words(draft) {
    const found = worst(draft, ({ upscale }) => upscale);
    if (!found) return '';
    const { largestWidth, wantedWidth, upscale } = found.evidence;
    return `The largest file offered is ${group(largestWidth)} px wide; ${found.screen} can show ${group(wantedWidth)} px and enlarges it ${upscale.toFixed(1)} times.`;
  },
  find(facts) {
    const drafts = new Drafts<ShortEvidence>();
    for (const placement of facts.placements) {
      for (const screen of facts.screens) {
        const choice = choiceOn(placement, screen, facts);
        if (!choice || choice.file.format === 'svg') continue;
        // A file narrower than its descriptor says is another check's finding.
        const widths = widthCandidates(choice.source).map(({ url, width = 0 }) =>
          Math.max(width, fileOf(url, choice.image, placement, facts)?.width ?? 0),
        );
        const largestWidth = Math.max(...widths);
        const wantedWidth = Math.ceil(choice.drawn * screen.density - 0.05);
        const upscale = wantedWidth / largestWidth;
        if (upscale < visible) continue;
        drafts.add(placement, screen.name, { saves: 0, largestWidth, wantedWidth, upscale });
      }
    }
    return drafts.list();
  },
  remedy,
});
