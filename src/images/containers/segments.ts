/** What a file carries beside its picture. */
export type MetadataKind =
  | 'camera notes'
  | 'editing history'
  | 'captions'
  | 'comments'
  /** Says more than sRGB, or is not understood. */
  | 'colour profile'
  | 'sRGB profile'
  /** By which bright screens show more light. */
  | 'gain map'
  | 'previews and other data after the picture';

/** Bytes by kind, headers of the segments included; kinds that a file lacks are left out. */
export type MetadataBytes = Partial<Record<MetadataKind, number>>;

/** Adds bytes to a kind. */
export function addBytes(found: MetadataBytes, kind: MetadataKind, bytes: number): void {
  found[kind] = (found[kind] ?? 0) + bytes;
}

/** The same bytes with another name for one kind, whose nature was found out later. */
export function renameKind(found: MetadataBytes, from: MetadataKind, to: MetadataKind): MetadataBytes {
  return Object.fromEntries(Object.entries(found).map(([kind, bytes]) => [kind === from ? to : kind, bytes]));
}
