/** A part of an address without its percent encoding; as it stands where that is none. RFC 3986, section 2.1. */
export function decoded(text: string): string {
  try {
    return decodeURIComponent(text);
  } catch {
    return text;
  }
}
