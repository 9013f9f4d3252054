import { promisify } from 'node:util';
import { gzip } from 'node:zlib';
import pLimit from 'p-limit';
import type { ImageAnswer, PageRecord } from '../core/run/index.js';
import type { ServerAnswer, Site } from '../site/index.js';
import type { AuditContext } from './context.js';

const asGzip = promisify(gzip);

/** Seconds. */
const day = 86_400;

/** What a browser accepts that takes neither AVIF nor WebP. */
const withoutNewer = 'image/png,image/svg+xml,image/*;q=0.8,*/*;q=0.5';
const newer = /^(avif|webp)$/;

/** What servers said of the images that visits fetched, by address and sorted; empty where nothing is known of any. */
export async function readImageAnswers(
  context: AuditContext,
  pages: readonly Pick<PageRecord, 'visits'>[],
): Promise<Map<string, ImageAnswer>> {
  const { site, faults } = context;
  if (!site.answerTo) return new Map();
  const urls = new Set(
    pages.flatMap(({ visits }) =>
      visits.flatMap(({ downloads }) => downloads.filter(({ status }) => status < 400).map(({ url }) => url)),
    ),
  );
  const few = pLimit(8);
  const found = await Promise.all(
    [...urls].sort().map((url) =>
      few(async () => {
        const told = await site.answerTo?.(url);
        return told ? toImageAnswer(context, url, told) : undefined;
      }).catch((cause: unknown) => {
        faults.note(`reading what the server said of ${url}`, { page: '' }, cause);
        return undefined;
      }),
    ),
  );
  return new Map(found.flatMap((each) => (each ? [[each.url, each]] : [])));
}

async function toImageAnswer(
  { site, images, urls }: AuditContext,
  url: string,
  told: ServerAnswer,
): Promise<ImageAnswer> {
  const { headers, wireBytes, size, coding, protocol, redirects } = told;
  const value = (name: string) => {
    const own = headers.filter(([each]) => each === name).map(([, text]) => text);
    return own.length > 0 ? own.join(', ') : null;
  };
  const seconds = (name: string) => {
    const time = Date.parse(value(name) ?? '');
    return Number.isFinite(time) ? Math.round(time / 1000) : null;
  };
  const [changed, sent] = [seconds('last-modified'), seconds('date') ?? 0];
  const format = images.fileOf(url)?.format ?? '';
  const age = Number(value('age') ?? 0);
  return {
    url,
    type: value('content-type') ?? '',
    wireBytes,
    bytes: size,
    coding,
    protocol,
    cacheControl: value('cache-control'),
    expiresIn: value('expires') === null ? null : Math.max(0, (seconds('expires') ?? 0) - sent),
    unchangedFor: changed === null ? null : Math.max(0, Math.floor((sent - changed) / day) * day),
    etag: value('etag'),
    age: Number.isFinite(age) && age > 0 ? age : 0,
    vary: value('vary'),
    redirects: redirects.map((each) => urls.shorten(each)),
    packed: format === 'svg' && coding === '' ? await packedSize(site, url) : null,
    // Only what may have been chosen by the browser is asked for once more.
    negotiated:
      newer.test(format) && !namedAs(url, format)
        ? ((await site.differsFor?.(url, withoutNewer)) ?? null)
        : null,
  };
}

/** Whether an address says by its ending which format it gives. */
const namedAs = (url: string, format: string) =>
  new RegExp(`\\.${format}$`, 'i').test(url.replace(/[?#].*$/s, ''));

async function packedSize(site: Site, url: string): Promise<number | null> {
  const file = site.fileAt(url);
  return file === undefined ? null : (await asGzip(await site.read(file))).length;
}
