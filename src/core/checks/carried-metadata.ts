import type { ImageFile } from '../run/types.js';
import { defineCheck, type Evidence } from './check.js';
import { Drafts, worst } from './drafts.js';
import type { Facts } from './facts.js';
import { claimEvidence, claimTogether } from './shared-claims.js';
import { sharedDownloads } from './shared-downloads.js';
import { bytesInWords, listed } from './words.js';

interface MetadataEvidence extends Evidence {
  url: string;
  metadataBytes: number;
  bytes: number;
}

/** A profile this small says sRGB in other words; larger ones may describe a wider range of colours and stay. */
const smallProfile = 700;
/** What names of author and licence take as plain Exif fields. */
const creditBytes = 400;

/** Bytes that can go, by kind. */
function removable(
  { metadata, colourSpace }: ImageFile,
  keepCredits: boolean,
): [kind: string, bytes: number][] {
  const kinds = Object.entries(metadata).filter(
    ([kind, bytes]) => kind !== 'colour profile' || (colourSpace === 'srgb' && bytes <= smallProfile),
  );
  return kinds.map(([kind, bytes], index) => [
    kind,
    // Kept credits are taken off the first kind, whichever holds them.
    keepCredits && index === 0 ? Math.max(0, bytes - creditBytes) : bytes,
  ]);
}

const sumOf = (kinds: readonly [string, number][]) => kinds.reduce((sum, [, bytes]) => sum + bytes, 0);

export const carriedMetadata = defineCheck<MetadataEvidence>({
  id: 'carried-metadata',
  about: {
    title: 'Take out what the files carry along',
    means:
      'The file holds notes of the camera or the editor that no browser shows; the place where a photograph was taken may be among them.',
    evidence:
      'The bytes of each kind: camera notes, editing history, captions, comments, previews, colour profile.',
    fix: 'The kinds to take out. Colour profiles that say more than sRGB stay, and with --keep-credits the names of author and licence.',
    silent:
      'Below the limit for trifles in bytes. The limit as a share does not count here: taking them out costs no looks.',
  },
  cut: 'metadata',
  sureness: 'exact: counted in the file',
  words(draft, facts) {
    const found = worst(draft, ({ metadataBytes }) => metadataBytes);
    const file = found && facts.files.get(found.evidence.url);
    if (!file) return '';
    const kinds = removable(file, facts.wishes.keepCredits).map(
      ([kind, bytes]) => `${kind} ${bytesInWords(bytes)}`,
    );
    return `${file.url} carries ${bytesInWords(found.evidence.metadataBytes)} that no browser shows: ${listed(kinds)}.`;
  },
  find(facts: Facts) {
    const drafts = new Drafts<MetadataEvidence>();
    for (const download of sharedDownloads(facts.placements)) {
      const file = facts.files.get(download.url);
      if (!file || file.problem !== undefined) continue;
      const metadataBytes = sumOf(removable(file, facts.wishes.keepCredits));
      if (metadataBytes === 0) continue;
      const claims = claimTogether(download, facts, (_, before) => ({
        ...before,
        key: `${before.key} bare`,
        bytes: Math.max(1, before.bytes - metadataBytes),
      }));
      for (const claim of claims)
        drafts.add(claim.placement, download.screen, {
          ...claimEvidence(claim),
          url: download.url,
          metadataBytes,
          bytes: download.bytes,
        });
    }
    return drafts.list();
  },
  remedy: (_, facts) => ({
    edits: [],
    files: [],
    notes: [
      facts.wishes.keepCredits
        ? 'Write the files without these kinds, but with the names of author and licence.'
        : 'Write the files without these kinds; if names of author or licence must stay, audit with --keep-credits.',
    ],
  }),
});
