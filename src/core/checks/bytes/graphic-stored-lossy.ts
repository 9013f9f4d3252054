import { defineCheck, nothingToPaste } from '../../judging/check.js';
import { encodedOn } from '../../judging/encodings.js';
import { Drafts, worst } from '../../judging/drafts.js';
import { bytesInWords } from '../../wording/words.js';

type DrawingEvidence = {
  url: string;
  format: string;
  bytes: number;
};

export const graphicStoredLossy = defineCheck<DrawingEvidence>({
  id: 'graphic-stored-lossy',
  about: {
    title: 'Store drawings without loss',
    means:
      'A drawing with flat colours and sharp lines is stored as a photograph: its lines and letters are smeared, and mostly it is larger than it need be.',
    evidence: 'The file, its format and its bytes.',
    fix: 'A PNG, by hand. What that saves cannot be measured on this file: the smears are in its pixels, and only a new export from the drawing is free of them.',
    silent:
      'For photographs, and for all of which it cannot be told: beside its edges and its ground, a drawing is still in 97 % of its boxes of 8 × 8 px (in 80 % where edges are many), in a dozen colours at most. Drawings that are shaded, or smeared by a low quality, are not named. Nor are AVIF files, whose lines stay sharp, and files under the limit for trifles.',
  },
  cut: null,
  sureness: 'judged from the pixels of the file',
  words(draft) {
    const found = worst(draft, ({ bytes }) => bytes);
    if (!found) return '';
    const { url, format, bytes } = found.evidence;
    return `${url} is a drawing, stored as ${format.toUpperCase()} (${bytesInWords(bytes)}), which smears its lines. What a PNG saves shows only on a new export.`;
  },
  find(facts) {
    const drafts = new Drafts<DrawingEvidence>();
    for (const placement of facts.placements) {
      if (placement.kind === 'preload') continue;
      for (const screen of facts.screens) {
        const url = placement.downloads[screen.name]?.url;
        const file = url === undefined ? undefined : facts.files.get(url);
        if (!file || file.lossless || file.animated || file.format === 'avif') continue;
        if (file.bytes < facts.wishes.trifles.trifleBytes) continue;
        const content = facts.prices.contentOf(file.url) ?? encodedOn(placement, screen, facts)?.content;
        if (content === 'graphic')
          drafts.add(placement, screen.name, { url: file.url, format: file.format, bytes: file.bytes });
      }
    }
    return drafts.list();
  },
  remedy: () =>
    nothingToPaste(
      'Export the files anew from the drawing, as PNG with a palette: no format brings back what was smeared.',
    ),
});
