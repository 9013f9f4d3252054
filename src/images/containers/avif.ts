import { addBytes, type MetadataBytes } from './segments.js';

interface Box {
  type: string;
  start: number;
  end: number;
}

/** ISO/IEC 14496-12, section 4.2: boxes. */
function* boxesIn(content: Buffer, from: number, to: number): Generator<Box> {
  for (let at = from; at + 8 <= to;) {
    let size = content.readUInt32BE(at);
    let header = 8;
    if (size === 1 && at + 16 <= to) {
      size = Number(content.readBigUInt64BE(at + 8));
      header = 16;
    }
    if (size === 0) size = to - at;
    if (size < header || at + size > to) return;
    yield { type: content.toString('latin1', at + 4, at + 8), start: at + header, end: at + size };
    at += size;
  }
}

/** Whether a box at the top ends beyond the file. */
function isTruncated(content: Buffer): boolean {
  let end = 0;
  for (const box of boxesIn(content, 0, content.length)) end = box.end;
  return (
    end < content.length && end + 8 <= content.length && content.readUInt32BE(end) > content.length - end
  );
}

/** Metadata of an AVIF file: items of type Exif or mime, and the colour profile among the properties. */
export function readAvif(content: Buffer): { metadata: MetadataBytes; truncated: boolean } {
  const metadata: MetadataBytes = {};
  const truncated = isTruncated(content);
  const meta = [...boxesIn(content, 0, content.length)].find(({ type }) => type === 'meta');
  if (!meta) return { metadata, truncated };
  const types = new Map<number, string>();
  const lengths = new Map<number, number>();
  for (const { type, start, end } of boxesIn(content, meta.start + 4, meta.end)) {
    if (type === 'iinf') readItemTypes(content, start, end, types);
    if (type === 'iloc') readItemLengths(content, start, end, lengths);
    if (type === 'iprp')
      for (const container of boxesIn(content, start, end))
        if (container.type === 'ipco')
          for (const property of boxesIn(content, container.start, container.end))
            if (
              property.type === 'colr' &&
              /^(prof|rICC)/.test(content.toString('latin1', property.start, property.start + 4))
            )
              addBytes(metadata, 'colour profile', property.end - property.start + 8);
  }
  for (const [id, type] of types) {
    if (type === 'Exif') addBytes(metadata, 'camera notes', lengths.get(id) ?? 0);
    if (type === 'mime') addBytes(metadata, 'editing history', lengths.get(id) ?? 0);
  }
  return { metadata, truncated };
}

/** Section 8.11.6, item information entries of version 2 and 3. */
function readItemTypes(content: Buffer, start: number, end: number, types: Map<number, string>): void {
  const entries = start + (content[start] === 0 ? 6 : 8);
  for (const { type, start: entry, end: last } of boxesIn(content, entries, end)) {
    const version = content[entry] ?? 0;
    if (type !== 'infe' || version < 2 || entry + 12 > last) continue;
    const id = version === 2 ? content.readUInt16BE(entry + 4) : content.readUInt32BE(entry + 4);
    const at = entry + (version === 2 ? 8 : 10);
    types.set(id, content.toString('latin1', at, at + 4));
  }
}

/** Section 8.11.3, item locations: the sum of the extents of each item. */
function readItemLengths(content: Buffer, start: number, end: number, lengths: Map<number, number>): void {
  const version = content[start] ?? 0;
  const sizes = content.readUInt16BE(start + 4);
  const [offsetSize, lengthSize, baseSize, indexSize] = [
    sizes >> 12,
    (sizes >> 8) & 15,
    (sizes >> 4) & 15,
    sizes & 15,
  ];
  const wide = version === 2 ? 4 : 2;
  const read = (at: number, size: number) =>
    size > 0 && at + size <= end ? content.readUIntBE(at, Math.min(6, size)) : 0;
  let at = start + 6 + wide;
  const count = read(start + 6, wide);
  for (let item = 0; item < count && at < end; item++) {
    const id = read(at, wide);
    at += wide + (version > 0 ? 2 : 0) + 2 + baseSize;
    const extents = read(at, 2);
    at += 2;
    let total = 0;
    for (let extent = 0; extent < extents && at < end; extent++) {
      at += (version > 0 ? indexSize : 0) + offsetSize;
      total += read(at, lengthSize);
      at += lengthSize;
    }
    lengths.set(id, total);
  }
}
