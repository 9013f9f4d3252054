import { isUtf8 } from 'node:buffer';
import { getEncoding } from 'encoding-sniffer';
import iconv from 'iconv-lite';

/** A text and what it is written in. */
export interface EncodedText {
  text: string;
  /** For example `utf-8` or `windows-1252`. */
  encoding: string;
}

/**
 * A page or a style sheet as text that can be written back, in the encoding by which `readText` knows it.
 * @returns undefined where not every byte would come back, because some belong to no character of its encoding
 */
export function readEncodedText(content: Buffer): EncodedText | undefined {
  if (isUtf8(content)) return { text: content.toString('utf8'), encoding: 'utf-8' };
  const encoding = getEncoding(content, { defaultEncoding: 'utf-8' });
  if (!iconv.encodingExists(encoding)) return undefined;
  const text = iconv.decode(content, encoding, { stripBOM: false });
  return writeEncodedText({ text, encoding })?.equals(content) ? { text, encoding } : undefined;
}

/** @returns undefined where the encoding has no bytes for one of the characters */
export function writeEncodedText({ text, encoding }: EncodedText): Buffer | undefined {
  const content = iconv.encode(text, encoding);
  return iconv.decode(content, encoding, { stripBOM: false }) === text ? content : undefined;
}
