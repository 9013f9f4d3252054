import type { Run } from '../run/types.js';

/** A file that a page downloads, on any screen; null where it does not. */
export interface ComparedDownload {
  page: string;
  /** Address in the later run, or in the earlier one where it went. */
  url: string;
  /** The earlier address of the same content. */
  renamedFrom: string | null;
  bytes: { before: number | null; after: number | null };
}

/** Files of pages that both have: those that came, went or changed, most bytes first. A new name for the same content is no change of bytes. */
export function compareDownloads(
  before: Readonly<Run>,
  after: Readonly<Run>,
  was: ReadonlySet<string>,
  is: ReadonlySet<string>,
): ComparedDownload[] {
  const hashesBefore = new Map(before.files.map(({ url, hash }) => [url, hash]));
  const hashesAfter = new Map(after.files.map(({ url, hash }) => [url, hash]));
  const [older, newer] = [downloadsIn(before), downloadsIn(after)];
  const changes: ComparedDownload[] = [];
  for (const page of is) {
    if (!was.has(page)) continue;
    const [then, now] = [new Map(older.get(page)), newer.get(page) ?? new Map<string, number>()];
    for (const [url, bytes] of now) {
      const hash = hashesAfter.get(url) ?? '';
      const same = then.has(url)
        ? url
        : [...then.keys()].find((each) => hash !== '' && hashesBefore.get(each) === hash && !now.has(each));
      const earlier = same === undefined ? null : (then.get(same) ?? null);
      if (same !== undefined) then.delete(same);
      const renamedFrom = same !== undefined && same !== url ? same : null;
      if (earlier !== bytes || renamedFrom !== null)
        changes.push({ page, url, renamedFrom, bytes: { before: earlier, after: bytes } });
    }
    for (const [url, bytes] of then)
      changes.push({ page, url, renamedFrom: null, bytes: { before: bytes, after: null } });
  }
  const size = ({ bytes }: ComparedDownload) => Math.abs((bytes.after ?? 0) - (bytes.before ?? 0));
  return changes.sort((a, b) => size(b) - size(a) || (a.page + a.url < b.page + b.url ? -1 : 1));
}

/** Bytes by address, by page; of several screens the largest transfer. */
function downloadsIn({ pages }: Readonly<Run>): Map<string, Map<string, number>> {
  return new Map(
    pages.map(({ path, visits }) => {
      const own = new Map<string, number>();
      for (const { downloads } of visits)
        for (const { url, bytes } of downloads) own.set(url, Math.max(own.get(url) ?? 0, bytes));
      return [path, own];
    }),
  );
}
