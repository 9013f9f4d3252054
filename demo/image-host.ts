import { createHash } from 'node:crypto';
import { createServer, type IncomingMessage, type ServerResponse } from 'node:http';
import { readFile } from 'node:fs/promises';
import type { AddressInfo } from 'node:net';
import { join, normalize } from 'node:path';
import Negotiator from 'negotiator';
import sharp from 'sharp';

/** A host that gives pictures of a folder in any width by their addresses, as those do that many sites rent. */
export interface ImageHostServer {
  /** `http://127.0.0.1:PORT` */
  origin: string;
  /** How its addresses are made: a URI Template. */
  template: string;
  close(): Promise<void>;
}

const types = { jpg: 'image/jpeg', webp: 'image/webp', avif: 'image/avif' } as const;
type Format = keyof typeof types;
const isFormat = (text: string): text is Format => text in types;

const usualQuality = 80;

/**
 * Serves `/<path>?width=…&format=…&quality=…` on 127.0.0.1: format `auto` (if left out, jpg) takes what the browser accepts. Wider than the
 * original there is nothing.
 */
export async function serveImageHost(folder: string): Promise<ImageHostServer> {
  const made = new Map<string, Promise<Buffer>>();
  const server = createServer((request, response) => {
    answer(request, response, folder, made).catch(() => {
      if (!response.headersSent) response.writeHead(500);
      response.end();
    });
  });
  await new Promise<void>((resolve, reject) => {
    server.once('error', reject);
    server.listen(0, '127.0.0.1', resolve);
  });
  const origin = `http://127.0.0.1:${(server.address() as AddressInfo).port}`;
  return {
    origin,
    template: `${origin}/{+path}?width={width}&format={format}&quality={quality}`,
    close: () =>
      new Promise((resolve) => {
        server.close(() => resolve());
        server.closeAllConnections();
      }),
  };
}

async function answer(
  request: IncomingMessage,
  response: ServerResponse,
  folder: string,
  made: Map<string, Promise<Buffer>>,
): Promise<void> {
  const { pathname, searchParams } = new URL(request.url ?? '/', 'http://image-host.invalid');
  const refuse = (status: number, why: string) =>
    response.writeHead(status, { 'Content-Type': 'text/plain; charset=utf-8' }).end(why);
  const name = normalize(decodeURIComponent(pathname)).replace(/^([\\/]|\.\.[\\/])+/, '');
  const source = await readFile(join(folder, name)).catch(() => undefined);
  if (!source) return void refuse(404, 'there is no such picture');
  const { width: own = 0 } = await sharp(source).metadata();
  const width = Number(searchParams.get('width') ?? own);
  const quality = Number(searchParams.get('quality') ?? usualQuality);
  const asked = searchParams.get('format') ?? 'jpg';
  const format = asked === 'auto' ? bestFor(request) : asked;
  if (!Number.isInteger(width) || width < 1 || width > own)
    return void refuse(400, `there are 1 to ${own} px`);
  if (!Number.isInteger(quality) || quality < 1 || quality > 100)
    return void refuse(400, 'quality is 1 to 100');
  if (!isFormat(format)) return void refuse(400, `there are ${Object.keys(types).join(', ')} and auto`);
  const key = JSON.stringify([name, width, format, quality]);
  const making = made.get(key) ?? makeVersion(source, { width, format, quality });
  made.set(key, making);
  const body = await making;
  response.writeHead(200, {
    'Content-Type': types[format],
    'Content-Length': body.length,
    'Cache-Control': 'public, max-age=31536000',
    ETag: `"${createHash('sha256').update(body).digest('hex').slice(0, 16)}"`,
    ...(asked === 'auto' ? { Vary: 'Accept' } : {}),
  });
  response.end(request.method === 'HEAD' ? undefined : body);
}

function bestFor(request: IncomingMessage): Format {
  const accepted = new Negotiator(request).mediaTypes(['image/avif', 'image/webp', 'image/jpeg']);
  const named = (type: string) => (request.headers.accept ?? '').includes(type) && accepted.includes(type);
  return named('image/avif') ? 'avif' : named('image/webp') ? 'webp' : 'jpg';
}

interface Version {
  width: number;
  format: Format;
  quality: number;
}

function makeVersion(source: Buffer, { width, format, quality }: Version): Promise<Buffer> {
  const picture = sharp(source).autoOrient().resize({ width });
  if (format === 'jpg') return picture.jpeg({ quality, progressive: true }).toBuffer();
  return format === 'webp'
    ? picture.webp({ quality }).toBuffer()
    : picture.avif({ quality, effort: 0, chromaSubsampling: '4:2:0' }).toBuffer();
}
