import { defineCheck } from '../../judging/check.js';
import { Drafts, worst } from '../../judging/drafts.js';
import { removableBytes, removableKinds } from '../../plan/removable.js';
import { bytesInWords, listed } from '../../wording/words.js';

type MetadataEvidence = {
  url: string;
  metadataBytes: number;
  bytes: number;
  source: number;
};

export const carriedMetadata = defineCheck<MetadataEvidence>({
  id: 'carried-metadata',
  about: {
    title: 'Take out what the files carry along',
    means:
      'The file holds notes of the camera or the editor that no browser shows; the place where a photograph was taken may be among them.',
    evidence:
      'The bytes of each kind: camera notes, editing history, captions, comments, previews, colour profile.',
    fix: 'The tag or the rule with the address of the file without them, and the kinds to take out. Colour profiles that say more than sRGB stay, and with --keep-credits the names of author and licence.',
    silent:
      'Below the limit for trifles in bytes. The limit as a share does not count here: taking them out costs no looks.',
  },
  cut: 'metadata',
  sureness: 'exact: counted in the file',
  words(draft, facts) {
    const found = worst(draft, ({ metadataBytes }) => metadataBytes);
    const file = found && facts.files.get(found.evidence.url);
    if (!file) return '';
    const kinds = removableKinds(file, facts.wishes.keepCredits).map(
      ([kind, bytes]) => `${kind} ${bytesInWords(bytes)}`,
    );
    return `${file.url} carries ${bytesInWords(found.evidence.metadataBytes)} that no browser shows: ${listed(kinds)}.`;
  },
  find(facts) {
    const drafts = new Drafts<MetadataEvidence>();
    for (const placement of facts.placements) {
      if (placement.kind === 'preload') continue;
      for (const { name } of facts.screens) {
        const taken = facts.plan.taken(placement, name);
        const file = taken?.file.recipe === 'as-is' ? facts.files.get(taken.file.url) : undefined;
        const source = taken && facts.plan.stateOf(placement)?.sources[taken.source]?.origin;
        if (!file || file.problem !== undefined) continue;
        const metadataBytes = removableBytes(file, facts.wishes.keepCredits);
        if (metadataBytes === 0) continue;
        // What cannot be edited is told only where it is worth it.
        if (typeof source !== 'number' && metadataBytes < facts.wishes.trifles.trifleBytes) continue;
        drafts.add(placement, name, {
          url: file.url,
          metadataBytes,
          bytes: taken?.bytes ?? 0,
          source: source ?? 0,
        });
      }
    }
    return drafts.list();
  },
  remedy({ screens }, facts) {
    const sources = new Map(
      Object.values(screens).map(({ source, url }) => [source, facts.files.get(url)?.format ?? '']),
    );
    return {
      changes: [...sources].map(([source, format]) => ({
        kind: 'reencode',
        source,
        from: format,
        format,
        recipe: 'bare',
      })),
      notes: [
        facts.wishes.keepCredits
          ? 'Write the files without these kinds, but with the names of author and licence.'
          : 'Write the files without these kinds; if names of author or licence must stay, audit with --keep-credits.',
      ],
    };
  },
});
