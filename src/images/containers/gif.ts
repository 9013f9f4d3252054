import { addBytes, type MetadataBytes } from './segments.js';

/** Bytes of a table of colours, by the flags that announce it. GIF89a, section 18. */
export const tableBytes = (flags: number) => (flags & 0x80 ? 3 * 2 ** ((flags & 7) + 1) : 0);

/** Where a chain of blocks ends, which begins at a place. GIF89a, section 15. */
export function afterBlocks(content: Buffer, from: number): number {
  let place = from;
  while (place < content.length && content[place] !== 0) place += 1 + (content[place] ?? 0);
  return place + 1;
}

/** GIF89a specification: sections 18 to 27, blocks. */
export function readGif(content: Buffer): { metadata: MetadataBytes; frames: number; truncated: boolean } {
  const metadata: MetadataBytes = {};
  let frames = 0;
  let at = 13 + tableBytes(content[10] ?? 0);
  const skipBlocks = (from: number) => afterBlocks(content, from);
  while (at < content.length && content[at] !== 0x3b) {
    const start = at;
    if (content[at] === 0x2c) {
      frames++;
      at = skipBlocks(at + 11 + tableBytes(content[at + 9] ?? 0));
    } else if (content[at] === 0x21) {
      const label = content[at + 1];
      at = skipBlocks(at + 2);
      const name = content.toString('latin1', start + 3, start + 14);
      if (label === 0xfe) addBytes(metadata, 'comments', at - start);
      if (label === 0xff && name.startsWith('XMP Data')) addBytes(metadata, 'editing history', at - start);
    } else break;
  }
  // The trailer of section 27 is often left out, and nothing is lost with it: truncated is a file that ends within a block.
  return { metadata, frames: Math.max(1, frames), truncated: at > content.length };
}
