import { isUtf8 } from 'node:buffer';
import { decodeBuffer } from 'encoding-sniffer';

/** The texts of a site are UTF-8 unless they say otherwise. */
const usual = 'utf-8';

/**
 * A page or a style sheet as text, by its byte order mark, else UTF-8, else what it says of itself. HTML standard, 13.2.3.2 "Determining
 * the character encoding", for a host that names a character set only where it is UTF-8.
 */
export function readText(content: Buffer): string {
  const isMarked = /^(\xef\xbb\xbf|\xff\xfe|\xfe\xff)/s.test(content.toString('latin1', 0, 3));
  if (!isMarked && isUtf8(content)) return content.toString('utf8');
  return decodeBuffer(content, { defaultEncoding: usual });
}
