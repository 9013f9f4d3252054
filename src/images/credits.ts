import readExif from 'exif-reader';
import { parseFragment, type DefaultTreeAdapterTypes } from 'parse5';
import sharp from 'sharp';

/** Names that a picture carries. */
export interface Credits {
  author?: string;
  licence?: string;
}

/** Names of author and licence in a file: in Exif (2.32, section 4.6.4), else in XMP (`dc:creator`, `dc:rights`), else in IPTC (records 2:80, 2:116). */
export async function readCredits(content: Buffer): Promise<Credits> {
  const { exif, xmp, iptc } = await sharp(content).metadata();
  const found = [exif && fromExif(exif), xmp && fromXmp(xmp.toString('utf8')), iptc && fromIptc(iptc)];
  const first = (name: keyof Credits) =>
    found.flatMap((credits) => (credits ? (credits[name]?.trim() ?? []) : [])).find((text) => text !== '');
  const [author, licence] = [first('author'), first('licence')];
  return { ...(author === undefined ? {} : { author }), ...(licence === undefined ? {} : { licence }) };
}

function fromExif(block: Buffer): Credits {
  try {
    const { Artist: author, Copyright: licence } = readExif(block).Image ?? {};
    return {
      ...(typeof author === 'string' ? { author } : {}),
      ...(typeof licence === 'string' ? { licence } : {}),
    };
  } catch {
    // What cannot be read has no names either.
    return {};
  }
}

function fromXmp(text: string): Credits {
  const textOf = (node: DefaultTreeAdapterTypes.Node): string =>
    'value' in node ? node.value : 'childNodes' in node ? node.childNodes.map(textOf).join('') : '';
  const all = (node: DefaultTreeAdapterTypes.Node): DefaultTreeAdapterTypes.Node[] =>
    'childNodes' in node ? node.childNodes.flatMap((child) => [child, ...all(child)]) : [];
  const named = (name: string) => all(parseFragment(text)).find((node) => node.nodeName === name);
  const [creator, rights] = [named('dc:creator'), named('dc:rights')];
  return {
    ...(creator ? { author: textOf(creator).trim() } : {}),
    ...(rights ? { licence: textOf(rights).trim() } : {}),
  };
}

/** IPTC-NAA Information Interchange Model 4.2: a tag marker, record, data set, two bytes of length, text. */
function fromIptc(block: Buffer): Credits {
  const credits: Credits = {};
  for (let at = block.indexOf(0x1c); at >= 0 && at + 5 <= block.length;) {
    const [record, set, length] = [block[at + 1], block[at + 2], block.readUInt16BE(at + 3)];
    const text = block.toString('utf8', at + 5, at + 5 + length);
    if (record === 2 && set === 80) credits.author ??= text;
    if (record === 2 && set === 116) credits.licence ??= text;
    at = block.indexOf(0x1c, at + 5 + length);
  }
  return credits;
}

/** The same names as Exif fields, for an encoder. */
export function asExif({ author, licence }: Credits): { IFD0: Record<string, string> } | undefined {
  const fields = {
    ...(author === undefined ? {} : { Artist: author }),
    ...(licence === undefined ? {} : { Copyright: licence }),
  };
  return Object.keys(fields).length === 0 ? undefined : { IFD0: fields };
}

/**
 * Puts Exif fields into a file that has none, beside its picture.
 * @param orientation of a JPEG that is stored turned, 1 to 8
 * @throws {Error} for a format into which they cannot be put without encoding it anew
 */
export async function putExif(
  content: Buffer,
  format: string,
  exif: { IFD0: Record<string, string> },
  orientation: number,
): Promise<Buffer> {
  const tiny = sharp({ create: { width: 1, height: 1, channels: 3, background: '#000' } });
  const carrying = (orientation > 1 ? tiny.withMetadata({ orientation }) : tiny).withExifMerge(exif);
  if (format === 'jpeg') {
    const carrier = await carrying.jpeg().toBuffer();
    const at = carrier.indexOf(Buffer.from([0xff, 0xe1]));
    const segment = carrier.subarray(at, at + 2 + carrier.readUInt16BE(at + 2));
    return Buffer.concat([content.subarray(0, 2), segment, content.subarray(2)]);
  }
  if (format === 'png' && orientation === 1) {
    const carrier = await carrying.png().toBuffer();
    const at = carrier.indexOf('eXIf') - 4;
    const chunk = carrier.subarray(at, at + 12 + carrier.readUInt32BE(at));
    // Behind the signature and the header, which come first (PNG, section 5.6).
    return Buffer.concat([content.subarray(0, 33), chunk, content.subarray(33)]);
  }
  throw new Error(`the names of author and licence cannot be put back into a ${format.toUpperCase()} file`);
}
