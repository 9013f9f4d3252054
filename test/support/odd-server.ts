import { createServer, type IncomingMessage, type ServerResponse } from 'node:http';
import type { AddressInfo } from 'node:net';

/** A real server of a test, with a note of what it was asked. */
export interface TestServer {
  origin: string;
  /** Method and path of each request, in their order. */
  asked: { path: string; headers: IncomingMessage['headers'] }[];
  close(): Promise<void>;
}

export type Answering = (request: IncomingMessage, response: ServerResponse, path: string) => void;

/** Starts a server on 127.0.0.1 that answers as the test says. */
export async function serverThat(answers: Answering): Promise<TestServer> {
  const asked: TestServer['asked'] = [];
  const server = createServer((request, response) => {
    const path = request.url ?? '/';
    asked.push({ path, headers: request.headers });
    answers(request, response, path);
  });
  await new Promise<void>((resolve) => server.listen(0, '127.0.0.1', resolve));
  return {
    origin: `http://127.0.0.1:${(server.address() as AddressInfo).port}`,
    asked,
    close: () =>
      new Promise((resolve) => {
        server.close(() => resolve());
        server.closeAllConnections();
      }),
  };
}

/** Answers with files by their paths; what is not there with 404. */
export function filesAt(
  files: Readonly<Record<string, string | Buffer>>,
  headers: (path: string) => Record<string, string> = () => ({}),
): Answering {
  const types: Record<string, string> = {
    jpg: 'image/jpeg',
    svg: 'image/svg+xml',
    css: 'text/css',
    txt: 'text/plain',
    xml: 'text/xml',
    webp: 'image/webp',
  };
  return (_, response, path) => {
    const name = path.replace(/[?#].*$/s, '');
    const content = files[name];
    response.statusCode = content === undefined ? 404 : 200;
    const type = types[name.slice(name.lastIndexOf('.') + 1)] ?? 'text/html; charset=utf-8';
    for (const [key, value] of Object.entries({ 'Content-Type': type, ...headers(name) }))
      response.setHeader(key, value);
    response.end(content ?? 'not here');
  };
}
