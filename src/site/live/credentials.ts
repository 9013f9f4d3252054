import { readFile } from 'node:fs/promises';
import { Cookie, type CookieJar } from 'tough-cookie';
import { causeInWords } from '../../core/wording/words.js';
import { SiteError } from '../errors.js';
import type { PageCookie } from '../site.js';

/** What opens a site that is not open to all. It is sent to the site's own origin only, and written nowhere. */
export interface Credentials {
  /** By names in small letters. */
  headers: Readonly<Record<string, string>>;
}

/** @throws {SiteError} for a text that is no header */
export function parseHeaders(texts: readonly string[]): Record<string, string> {
  return Object.fromEntries(
    texts.map((text) => {
      const [, name, value] = /^([!#$%&'*+.^_`|~0-9A-Za-z-]+)\s*:\s*([^\r\n]*)$/.exec(text) ?? [];
      if (name === undefined || value === undefined)
        // What was given may be a secret: it is not shown.
        throw new SiteError(
          'WRONG_HEADER',
          `--header must be a name and a value, such as 'Authorization: Bearer …'.`,
        );
      return [name.toLowerCase(), value];
    }),
  );
}

/** HTTP basic authentication, RFC 7617. */
export const basicAuthorization = (name: string, password: string): string =>
  `Basic ${Buffer.from(`${name}:${password}`, 'utf8').toString('base64')}`;

/**
 * Puts the cookies of a file into a jar, which gives them only to the hosts that they are for. The file has a line for each, with its
 * domain, whether that includes subdomains, its path, whether it is secure, the second in which it ends (0: with the session), its name
 * and its value, divided by tabs.
 * @throws {SiteError} when there is no such file, or a line of it is no cookie
 */
export async function readCookies(file: string, jar: CookieJar): Promise<void> {
  const text = await readFile(file, 'utf8').catch((cause: unknown) => {
    throw new SiteError('WRONG_COOKIES', `The cookies "${file}" cannot be read: ${causeInWords(cause)}.`);
  });
  for (const [index, raw] of text.split(/\r?\n/).entries()) {
    const line = raw.replace(/^#HttpOnly_/, '');
    if (line.trim() === '' || line.startsWith('#')) continue;
    const [domain, subdomains, path, secure, ends, name, value] = line.split('\t');
    if (domain === undefined || path === undefined || name === undefined || value === undefined)
      throw new SiteError(
        'WRONG_COOKIES',
        `The cookies "${file}": line ${index + 1} is no cookie. It has seven parts divided by tabs: domain, TRUE or FALSE, path, TRUE or FALSE, end in seconds, name, value.`,
      );
    const host = domain.replace(/^\./, '');
    const cookie = new Cookie({
      key: name,
      value,
      domain: host,
      path,
      secure: secure === 'TRUE',
      hostOnly: subdomains !== 'TRUE',
      httpOnly: raw.startsWith('#HttpOnly_'),
      ...(Number(ends) > 0 ? { expires: new Date(Number(ends) * 1000) } : {}),
    });
    await jar.setCookie(cookie, `http${secure === 'TRUE' ? 's' : ''}://${host}${path}`);
  }
}

/** The cookies of a jar that an address gets, as a browser takes them. */
export async function cookiesOf(jar: CookieJar, address: string): Promise<PageCookie[]> {
  const cookies = await jar.getCookies(address);
  return cookies.map(({ key, value, domain, path, secure, httpOnly }) => ({
    name: key,
    value,
    domain: domain ?? new URL(address).hostname,
    path: path ?? '/',
    secure,
    httpOnly,
  }));
}
