/** Writes URLs of the audited site as paths from its root, so that a run never holds the port it was served at. */
export class SiteUrls {
  constructor(readonly origin: string) {}

  isOwn(url: string): boolean {
    return url.startsWith(`${this.origin}/`);
  }

  /** Whether a page may ask for it where other hosts are not to be asked: it is of this site, or leaves the machine for nothing. */
  staysHere(url: string): boolean {
    return this.isOwn(url) || /^(data|blob|about):/.test(url);
  }

  /** As it is asked for: a fragment never leaves the browser (RFC 9110, 4.2.5). */
  shorten(url: string): string {
    // Scripts make these up anew in each load.
    if (url.startsWith('blob:')) return 'blob:';
    const asked = /^https?:/.test(url) ? url.replace(/#.*$/s, '') : url;
    return this.isOwn(asked) ? asked.slice(this.origin.length) : asked;
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
