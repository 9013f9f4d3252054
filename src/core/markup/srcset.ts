/** One image candidate string of `srcset`. HTML standard, 4.8.4.2.1 "Srcset attributes". */
export interface ImageCandidate {
  url: string;
  /** Width descriptor, device px. */
  width?: number;
  /** Pixel density descriptor, device px per CSS px. */
  density?: number;
  /** Future-compatible height descriptor; parsed, never used. */
  height?: number;
}

export interface SrcsetError {
  /** Character offset in the attribute's value at which the candidate begins. */
  offset: number;
  url: string;
  why: string;
}

export interface Srcset {
  candidates: ImageCandidate[];
  errors: SrcsetError[];
}

const isSpace = (code: number) =>
  code === 0x20 || code === 0x09 || code === 0x0a || code === 0x0c || code === 0x0d;
const comma = 0x2c;

/**
 * Parses a `srcset` attribute by the HTML standard's state machine, 4.8.4.3.10 "Parsing a srcset attribute".
 * Linear in the length of the text. Candidates with errors are left out of `candidates` and named in `errors`.
 */
export function parseSrcset(text: string): Srcset {
  const result: Srcset = { candidates: [], errors: [] };
  const end = text.length;
  let at = 0;
  while (at < end) {
    while (at < end && (isSpace(text.charCodeAt(at)) || text.charCodeAt(at) === comma)) at++;
    if (at >= end) break;
    const start = at;
    while (at < end && !isSpace(text.charCodeAt(at))) at++;
    let urlEnd = at;
    let descriptors: string[] = [];
    if (text.charCodeAt(at - 1) === comma) {
      while (urlEnd > start && text.charCodeAt(urlEnd - 1) === comma) urlEnd--;
    } else {
      const tokens = tokenizeDescriptors(text, at);
      descriptors = tokens.descriptors;
      at = tokens.end;
    }
    const url = text.slice(start, urlEnd);
    const read = readDescriptors(descriptors);
    if (typeof read === 'string') result.errors.push({ offset: start, url, why: read });
    else result.candidates.push({ url, ...read });
  }
  return result;
}

function tokenizeDescriptors(text: string, from: number): { descriptors: string[]; end: number } {
  const descriptors: string[] = [];
  let at = from;
  let tokenStart = -1;
  let inParentheses = false;
  const finish = () => {
    if (tokenStart >= 0) descriptors.push(text.slice(tokenStart, at));
    tokenStart = -1;
  };
  for (; at < text.length; at++) {
    const code = text.charCodeAt(at);
    if (inParentheses) {
      if (code === 0x29) inParentheses = false;
      continue;
    }
    if (isSpace(code)) {
      finish();
    } else if (code === comma) {
      finish();
      return { descriptors, end: at + 1 };
    } else {
      if (code === 0x28) inParentheses = true;
      if (tokenStart < 0) tokenStart = at;
    }
  }
  finish();
  return { descriptors, end: at };
}

/** HTML standard, 2.3.4.2 "valid non-negative integer"; Chromium keeps it in 32 bits with sign and refuses larger ones. */
const isPixels = (text: string) => /^[0-9]+$/.test(text) && Number(text) > 0 && Number(text) <= 0x7fffffff;
/** HTML standard, 2.3.4.3 "valid floating-point number". */
const floatingPoint = /^-?(?:[0-9]+|[0-9]*\.[0-9]+)(?:[eE][+-]?[0-9]+)?$/;

/** Chromium keeps densities as float32; one that is infinite there is refused. */
const isDensity = (text: string) =>
  floatingPoint.test(text) && Number(text) >= 0 && Number.isFinite(Math.fround(Number(text)));

function readDescriptors(descriptors: readonly string[]): Omit<ImageCandidate, 'url'> | string {
  const read: Omit<ImageCandidate, 'url'> = {};
  for (const descriptor of descriptors) {
    const unit = descriptor.at(-1);
    const value = descriptor.slice(0, -1);
    if (unit === 'w') {
      if (read.width !== undefined) return 'it has two width descriptors';
      if (read.density !== undefined) return 'it has both a width and a density descriptor';
      if (!isPixels(value)) return `"${descriptor}" is not a whole number of pixels above 0`;
      read.width = Number(value);
    } else if (unit === 'x') {
      if (read.density !== undefined) return 'it has two density descriptors';
      if (read.width !== undefined) return 'it has both a width and a density descriptor';
      if (read.height !== undefined) return 'it has both a height and a density descriptor';
      if (!isDensity(value))
        return `"${descriptor}" is neither a density such as 2x nor a width such as 480w`;
      read.density = Number(value);
    } else if (unit === 'h') {
      if (read.height !== undefined) return 'it has two height descriptors';
      if (read.density !== undefined) return 'it has both a height and a density descriptor';
      if (!isPixels(value)) return `"${descriptor}" is not a whole number of pixels above 0`;
      read.height = Number(value);
    } else {
      return `"${descriptor}" is not a descriptor (write 480w or 2x)`;
    }
  }
  if (read.height !== undefined && read.width === undefined)
    return 'a height descriptor needs a width descriptor beside it';
  return read;
}
