/** What a file carries beside its picture. */
export type MetadataKind =
  | 'camera notes'
  | 'editing history'
  | 'captions'
  | 'comments'
  | 'colour profile'
  | 'previews and other data after the picture';

/** Bytes by kind, headers of the segments included; kinds that a file lacks are left out. */
export type MetadataBytes = Partial<Record<MetadataKind, number>>;

/** Adds bytes to a kind. */
export function addBytes(found: MetadataBytes, kind: MetadataKind, bytes: number): void {
  found[kind] = (found[kind] ?? 0) + bytes;
}
