/** What an attribute's value stands between. */
export type Quote = '"' | "'";

const references: Readonly<Record<Quote, string>> = { '"': '&quot;', "'": '&#39;' };

/** A text as it is written in an attribute's value. HTML, section 13.1.2.3 "Attributes". */
export const writeInQuotes = (text: string, quote: Quote): string =>
  text.replaceAll('&', '&amp;').replaceAll(quote, references[quote]);

/** A text as the place where it stands needs it: what is in an attribute already is written as its value. */
export const asItStands = (text: string, place: { quote?: Quote } | null): string =>
  place?.quote ? writeInQuotes(text, place.quote) : text;

const named: Readonly<Record<string, string>> = { quot: '"', apos: "'", amp: '&', lt: '<', gt: '>' };
const reference = /&(?:(quot|apos|amp|lt|gt)|#(\d{1,7})|#x([\da-f]{1,6}));/gi;
const lastCharacter = 0x10ffff;

/** What a text means, and where each of its characters begins in what is written; the end stands last. */
export interface ReadReferences {
  text: string;
  offsets: readonly number[];
}

/**
 * Reads the character references that markup within an attribute needs. Others are let be: where the text is parsed as HTML again, they are read there.
 */
export function readReferences(written: string): ReadReferences {
  let text = '';
  const offsets: number[] = [];
  const add = (meant: string, from: number, isOne: boolean) => {
    for (let index = 0; index < meant.length; index++) offsets.push(isOne ? from : from + index);
    text += meant;
  };
  let at = 0;
  for (const found of written.matchAll(reference)) {
    const [whole, name, decimal, hexadecimal] = found;
    add(written.slice(at, found.index), at, false);
    const code = hexadecimal ? Number.parseInt(hexadecimal, 16) : Number(decimal);
    const meant = name ? named[name.toLowerCase()] : code <= lastCharacter && String.fromCodePoint(code);
    add(meant || whole, found.index, Boolean(meant));
    at = found.index + whole.length;
  }
  add(written.slice(at), at, false);
  offsets.push(written.length);
  return { text, offsets };
}
