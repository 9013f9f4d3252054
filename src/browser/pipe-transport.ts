import type { Readable, Writable } from 'node:stream';
import { StringDecoder } from 'node:string_decoder';
import type { ConnectionTransport } from 'puppeteer-core';

/** Messages of the protocol over two pipes of a browser's process, each ended by a zero byte: no port of this machine is open for it. */
export class PipeTransport implements ConnectionTransport {
  onmessage?: (message: string) => void;
  onclose?: () => void;
  readonly #decoder = new StringDecoder('utf8');
  /** The parts of a message whose end has not come yet. */
  #begun: string[] = [];

  constructor(
    private readonly write: Writable,
    read: Readable,
  ) {
    read.on('data', (chunk: Buffer) => this.#take(this.#decoder.write(chunk)));
    read.on('close', () => this.onclose?.());
    // A pipe breaks where the browser dies, whose end is told by the other pipe.
    read.on('error', () => undefined);
    write.on('error', () => undefined);
  }

  send(message: string): void {
    this.write.write(`${message}\0`);
  }

  close(): void {
    this.write.destroy();
  }

  #take(text: string): void {
    const parts = text.split('\0');
    const rest = parts.pop() ?? '';
    for (const part of parts) {
      const message = this.#begun.join('') + part;
      this.#begun = [];
      this.onmessage?.(message);
    }
    if (rest !== '') this.#begun.push(rest);
  }
}
