import { defineCheck, type Evidence } from './check.js';
import { extensionOf } from './encoding-claims.js';
import { Drafts, worst } from './drafts.js';
import { bytesInWords } from './words.js';

interface DrawingEvidence extends Evidence {
  url: string;
  format: string;
  bytes: number;
}

export const graphicStoredLossy = defineCheck<DrawingEvidence>({
  id: 'graphic-stored-lossy',
  about: {
    title: 'Store drawings without loss',
    means:
      'A drawing with flat colours and sharp lines is stored as a photograph: its lines and letters are smeared, and mostly it is larger than it need be.',
    evidence: 'The file, its format and its bytes.',
    fix: 'The tag with the address of a PNG. What that saves cannot be measured on this file: the smears are in its pixels, and only a new export from the drawing is free of them.',
    silent:
      'For photographs, which change brightness in steps of every height: a drawing is flat over at least 85 % of its pixels, and at least 15 % of its other steps are steep.',
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
      for (const [screen, { url, bytes }] of Object.entries(placement.downloads)) {
        const file = facts.files.get(url);
        if (!file || file.lossless || file.animated) continue;
        const master = facts.proposals.get(placement.id)?.master.url ?? url;
        const content = facts.prices.contentOf(url) ?? facts.prices.contentOf(master);
        if (content === 'graphic')
          drafts.add(placement, screen, { saves: 0, url, format: file.format, bytes });
      }
    }
    return drafts.list();
  },
  remedy(draft) {
    const [evidence] = Object.values(draft.screens);
    if (!evidence) return { edits: [], files: [], notes: [] };
    return {
      edits: [{ kind: 'rename', from: evidence.format, to: extensionOf('png') }],
      files: [],
      notes: [
        'Export the files anew from the drawing, as PNG with a palette: no format brings back what was smeared.',
      ],
    };
  },
});
