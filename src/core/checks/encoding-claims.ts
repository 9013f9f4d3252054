import type { Price } from '../bytes/price-list.js';
import { nameAtWidth, pricePart, withExtension } from '../fixes/file-names.js';
import type { FileToMake, ImageFile, Placement, Screen } from '../run/types.js';
import type { Draft, Evidence } from './check.js';
import { Drafts } from './drafts.js';
import type { Facts } from './facts.js';
import { fileToMake, pricedFile, type FileState } from './file-state.js';
import { claimEvidence, claimTogether } from './shared-claims.js';
import { sharedDownloads, type SharedDownload } from './shared-downloads.js';

/** What another encoding of the same pixels saves on one screen. */
export interface EncodingEvidence extends Evidence {
  url: string;
  /** Device px. */
  width: number;
  format: string;
  newFormat: string;
  quality: number | null;
  bytes: number;
  bytesAfter: number;
}

export interface Reencoding {
  format: string;
  price: Price;
}

/** What a placement takes before a claim: the state, the delivered file, and the file by which it is priced. */
export interface Encoded {
  placement: Placement;
  screen: Screen;
  state: FileState;
  delivered: ImageFile;
  priced: ImageFile;
}

/** Findings about how the pixels are stored, each on what the findings before left. */
export function findReencodings(
  facts: Facts,
  reencode: (encoded: Encoded) => Reencoding | undefined,
): Draft<EncodingEvidence>[] {
  const drafts = new Drafts<EncodingEvidence>();
  for (const download of sharedDownloads(facts.placements)) {
    const screen = facts.screens.find(({ name }) => name === download.screen);
    if (screen) claimOne(download, screen, facts, reencode, drafts);
  }
  return drafts.list();
}

function claimOne(
  download: SharedDownload,
  screen: Screen,
  facts: Facts,
  reencode: (encoded: Encoded) => Reencoding | undefined,
  drafts: Drafts<EncodingEvidence>,
): void {
  const claims = claimTogether(download, facts, (placement, state) => {
    const delivered = facts.files.get(download.url);
    const priced = pricedFile(placement, state, facts);
    if (!delivered || !priced) return undefined;
    const found = reencode({ placement, screen, state, delivered, priced });
    return found && found.price.bytes < state.bytes
      ? fileToMake(priced.url, found.format, state.width, found.price)
      : undefined;
  });
  for (const claim of claims) {
    const { placement, before, leaves } = claim;
    const price = facts.prices.equalLooks(leaves.url, leaves.format, leaves.width);
    drafts.add(placement, screen.name, {
      ...claimEvidence(claim),
      url: download.url,
      width: leaves.width,
      format: before.format,
      newFormat: leaves.format,
      quality: price?.quality ?? null,
      bytes: before.bytes,
      bytesAfter: leaves.bytes,
    });
  }
}

const extensions: Record<string, string> = { jpeg: 'jpg' };
export const extensionOf = (format: string) => extensions[format] ?? format;

interface Encodable {
  url: string;
  /** Device px. */
  width: number;
}

/** A new source lists a twin of every candidate, so all are to be made, whether a screen of the audit takes them or not. */
function withCandidates(
  screens: Draft<EncodingEvidence>['screens'],
  { candidates }: Placement,
  newFormat: string,
  facts: Facts,
): Encodable[] {
  const shown = Object.values(screens);
  const [first] = shown;
  if (!first || first.format === newFormat) return shown;
  const kin = shown.some(({ url, width }) => width < (facts.files.get(url)?.width ?? 0))
    ? []
    : candidates.flatMap((url) => facts.files.get(url) ?? []);
  const twins = kin.filter(({ format, problem }) => format === first.format && problem === undefined);
  return [...shown, ...twins].sort((a, b) => a.width - b.width);
}

/** The files that a finding about encoding asks for: at the widths that the fixes before propose, else in the place of those there are. */
export function filesToEncode(
  { placement, screens }: Draft<EncodingEvidence>,
  newFormat: string,
  facts: Facts,
): FileToMake[] {
  const proposal = facts.proposals.get(placement.id);
  const files = new Map<string, FileToMake>();
  for (const { url, width } of withCandidates(screens, placement, newFormat, facts)) {
    const delivered = facts.files.get(url);
    const made =
      proposal && delivered && width < delivered.width && !facts.files.has(nameAtWidth(url, width));
    const widths = made ? proposal.widths : [width];
    for (const each of widths) {
      const source = made ? proposal.master : delivered;
      if (!source) continue;
      const state: FileState = {
        key: '',
        url: source.url,
        format: source.format,
        width: each,
        bytes: 0,
        error: 0,
      };
      const priced = pricedFile(placement, state, facts) ?? source;
      const price = facts.prices.equalLooks(priced.url, newFormat, each);
      const base = each < source.width ? nameAtWidth(source.url, each) : source.url;
      const name = source.format === newFormat ? base : withExtension(base, extensionOf(newFormat));
      files.set(name, { name, from: priced.url, width: each, format: newFormat, ...pricePart(price) });
    }
  }
  return [...files.values()];
}
