/** Writes URLs of the audited site as paths from its root, so that a run never holds the port it was served at. */
export class SiteUrls {
  constructor(readonly origin: string) {}

  isOwn(url: string): boolean {
    return url.startsWith(`${this.origin}/`);
  }

  shorten(url: string): string {
    return this.isOwn(url) ? url.slice(this.origin.length) : url;
  }

  /** A text in which addresses of this site are paths: the port of its server is another one each time. */
  withoutOrigin(text: string): string {
    return text.replaceAll(this.origin, '');
  }

  /** An address as written, resolved as the page resolves it; as it stands if it cannot be. */
  resolve(written: string, base: string): string {
    try {
      return this.shorten(new URL(written, base).href);
    } catch {
      return written;
    }
  }
}
