import { isUtf8 } from 'node:buffer';
import { createHash } from 'node:crypto';
import { createServer, type IncomingMessage, type ServerResponse } from 'node:http';
import type { AddressInfo } from 'node:net';
import { readFile } from 'node:fs/promises';
import { promisify } from 'node:util';
import { brotliCompress, constants, gzip } from 'node:zlib';
import mime from 'mime-types';
import Negotiator from 'negotiator';
import send from 'send';
import { resolveServed, type ServedFolder } from './answers.js';

const asGzip = promisify(gzip);
const asBrotli = promisify(brotliCompress);

/** The usual setting of hosts that compress on the fly. */
const brotliQuality = 5;
const worthCompressing = 256;

export interface FolderServer {
  /** `http://127.0.0.1:PORT` */
  origin: string;
  close(): Promise<void>;
}

/** Serves a folder on 127.0.0.1 at a free port, as a static host does: clean URLs, right types, compressed text. */
export async function serveFolder(folder: ServedFolder): Promise<FolderServer> {
  const { files } = folder;
  /** By content: files may change while they are served. */
  const compressed = new Map<string, Promise<Buffer>>();

  const sendText = async (request: IncomingMessage, response: ServerResponse, body: Buffer) => {
    const accepted = new Negotiator(request).encodings(['br', 'gzip']);
    const coding = (['br', 'gzip'] as const).find((name) => accepted.includes(name));
    if (body.length < worthCompressing || coding === undefined) {
      response.setHeader('Content-Length', body.length).end(body);
      return;
    }
    const key = `${coding} ${createHash('sha256').update(body).digest('base64')}`;
    const job = compressed.get(key) ?? compress(body, coding);
    compressed.set(key, job);
    const packed = await job;
    response.setHeader('Content-Encoding', coding).setHeader('Content-Length', packed.length).end(packed);
  };

  const answer = async (request: IncomingMessage, response: ServerResponse): Promise<void> => {
    const refusal = refusalOf(request);
    if (refusal !== undefined) {
      response.writeHead(refusal, {
        'Content-Length': 0,
        ...(refusal === 405 ? { Allow: 'GET, HEAD' } : {}),
      });
      response.end();
      return;
    }
    // As text: as an address of its own "//x" would name a host.
    const [, pathname = '/', search = ''] = /^([^?#]*)(\?[^#]*)?/.exec(request.url ?? '/') ?? [];
    const found = resolveServed(pathname, folder);
    if (found.kind === 'redirect') {
      response.writeHead(301, { Location: found.to + search, 'Content-Length': 0 }).end();
      return;
    }
    const notFound = found.kind === 'missing';
    const path = files.get(notFound ? '404.html' : found.file);
    response.statusCode = notFound ? 404 : 200;
    if (path === undefined) {
      response.setHeader('Content-Type', 'text/plain').setHeader('Content-Length', 9).end('Not found');
      return;
    }
    const type = typeOfFile(path);
    const body = notFound || isText(type) ? await readFile(path) : undefined;
    response
      .setHeader('Content-Type', body ? typeOfText(type, body) : type)
      .setHeader('Cache-Control', 'public, max-age=600');
    response.setHeader('Vary', 'Accept-Encoding');
    if (body) await sendText(request, response, body);
    else
      send(request, encodeURI(path).replaceAll('#', '%23').replaceAll('?', '%3F'), sendOptions).pipe(
        response,
      );
  };

  const server = createServer((request, response) => {
    answer(request, response).catch((cause: unknown) => {
      if (!response.headersSent) response.statusCode = cause instanceof URIError ? 400 : 500;
      response.end();
    });
  });
  await new Promise<void>((resolve, reject) => {
    server.once('error', reject);
    server.listen(0, '127.0.0.1', resolve);
  });
  return {
    origin: `http://127.0.0.1:${(server.address() as AddressInfo).port}`,
    close: () =>
      new Promise((resolve) => {
        server.close(() => resolve());
        server.closeAllConnections();
      }),
  };
}

/** The path was resolved against the list of files, so nothing is left for `send` to decide. */
const sendOptions = { dotfiles: 'allow', index: false, etag: true, cacheControl: false } as const;

/** Another name of the host would reach this server by a name that somebody else has given to 127.0.0.1. */
function refusalOf({ method, headers, socket }: IncomingMessage): 405 | 421 | undefined {
  if (method !== 'GET' && method !== 'HEAD') return 405;
  return headers.host === `127.0.0.1:${socket.localPort}` ? undefined : 421;
}

/** A page or a sheet that is not UTF-8 says itself what it is. */
const typeOfText = (type: string, body: Buffer) =>
  /^text\/(html|css)/.test(type) && !isUtf8(body) ? type.replace(/;.*$/, '') : type;

/** As hosts tell it, by the end of a file's name. */
export const typeOfFile = (name: string): string =>
  mime.contentType(name.slice(name.lastIndexOf('.'))) || 'application/octet-stream';

function isText(type: string): boolean {
  return /^text\/|[/+](json|xml|javascript|manifest\+json)\b|^image\/svg/.test(type);
}

function compress(body: Buffer, coding: 'br' | 'gzip'): Promise<Buffer> {
  return coding === 'gzip'
    ? asGzip(body)
    : asBrotli(body, { params: { [constants.BROTLI_PARAM_QUALITY]: brotliQuality } });
}
