import { once } from 'node:events';
import type { Readable, Writable } from 'node:stream';
import type { Process } from '@puppeteer/browsers';
import type { Connection } from 'puppeteer-core';
import { causeInWords } from '../core/wording/words.js';
import { died } from './errors.js';
import { PipeTransport } from './pipe-transport.js';
import { browserSwitches } from './switches.js';
import { Tab, type TabWishes } from './tab.js';

/** How a browser process is started. */
export interface ProcessOrder {
  executable: string;
  /** Besides those that every browser is started with. */
  switches: readonly string[];
  environment: Readonly<Record<string, string>>;
  /** A folder of its own. */
  profile: string;
  limitMs: number;
}

const lastWordsMs = 50;

/** A process or a pipe that a program may or may not wait for. */
interface Referable {
  ref(): unknown;
  unref(): unknown;
}

/** A browser process went away before it could be spoken to. */
export class EndedAtStart extends Error {
  constructor(
    /** What it wrote, line by line. */
    readonly said: readonly string[],
    options?: ErrorOptions,
  ) {
    super('it ended while it started', options);
    this.name = 'EndedAtStart';
  }
}

/**
 * One browser process. Tabs are spoken to by the protocol alone: what a driver's own pages follow of every frame and request would cost as
 * much time again as what is asked here.
 */
export class Driver {
  #ended = false;
  /** Told when it ends. */
  readonly #listeners = new Set<() => void>();

  private constructor(
    private readonly process: Process,
    private readonly connection: Connection,
    /** For example `147.0.7727.0`. */
    readonly version: string,
  ) {
    const end = () => {
      this.#ended = true;
      for (const listener of this.#listeners) listener();
    };
    // One of them is told first; another browser may be started at once.
    process.nodeProcess.once('exit', end);
    process.nodeProcess.stdio[4]?.once('close', end);
  }

  /**
   * @throws {EndedAtStart} when it goes away at once
   * @throws {Error} when it does not answer in time
   */
  static async launch(order: ProcessOrder): Promise<Driver> {
    const { Connection, launch } = await import('./protocol.js');
    const switches = [...browserSwitches, ...order.switches, `--user-data-dir=${order.profile}`];
    const process = launch({
      executablePath: order.executable,
      args: [...switches, '--remote-debugging-pipe'],
      env: order.environment,
      pipe: true,
      // What interrupts the audit lets it finish what is open.
      handleSIGINT: false,
      handleSIGTERM: false,
      handleSIGHUP: false,
    });
    const goesAway = endOf(process);
    goesAway.catch(() => undefined);
    const connect = async () => {
      const connection = new Connection('', transportTo(process), 0, 0);
      const { product } = await connection.send('Browser.getVersion');
      await connection.send('Target.setDiscoverTargets', { discover: true, filter: [{ type: 'page' }] });
      return new Driver(process, connection, product.replace(/^.*\//, ''));
    };
    let timer: NodeJS.Timeout | undefined;
    const late = new Promise<never>((_, reject) => {
      const words = `it did not answer within ${order.limitMs / 1000} s`;
      timer = setTimeout(() => reject(new Error(words)), order.limitMs);
    });
    try {
      // Its pipes break a moment before its end is told.
      return await Promise.race([goesAway, late, connect().catch(() => goesAway)]);
    } catch (cause) {
      process.kill();
      throw cause;
    } finally {
      clearTimeout(timer);
    }
  }

  get isConnected(): boolean {
    return !this.#ended;
  }

  /** @throws {BrowserError} when the browser dies meanwhile */
  openTab(wishes: TabWishes): Promise<Tab> {
    return this.whileRunning(() => Tab.open(this.connection, wishes));
  }

  /**
   * Does something with the browser. What is asked of one that dies meanwhile may never be answered: its end is listened for.
   * @throws {BrowserError} when it dies; else whatever the work throws
   */
  async whileRunning<Result>(work: () => Promise<Result>): Promise<Result> {
    let tell = () => {};
    const end = new Promise<never>((_, reject) => {
      tell = () => reject(died());
    });
    this.#listeners.add(tell);
    if (this.#ended) tell();
    try {
      return await Promise.race([end, work()]);
    } finally {
      this.#listeners.delete(tell);
    }
  }

  /** A browser is asked whether it runs: what it was doing fails a moment before its end is known. */
  stillRuns(): Promise<boolean> {
    return this.whileRunning(() => this.connection.send('Browser.getVersion')).then(
      () => true,
      () => false,
    );
  }

  /** A program that has nothing else to wait for ends while its browser is not needed. */
  setNeeded(isNeeded: boolean): void {
    const { nodeProcess } = this.process;
    for (const each of [nodeProcess, ...nodeProcess.stdio] as (Referable | null)[])
      if (isNeeded) each?.ref();
      else each?.unref();
  }

  /** Ends it where nothing can be waited for. */
  kill(): void {
    this.process.kill();
  }

  /** Ends it with all its tabs: nothing of it is to be kept. */
  async close(): Promise<void> {
    const { nodeProcess } = this.process;
    const isThere = nodeProcess.exitCode === null && nodeProcess.signalCode === null;
    const ended = isThere ? once(nodeProcess, 'exit') : undefined;
    this.process.kill();
    await ended;
    this.connection.dispose();
  }
}

/** Rejects once a process is no more, with what it said: its last words come a moment later. */
async function endOf(process: Process): Promise<never> {
  const cause: unknown = await once(process.nodeProcess, 'exit').then(
    () => undefined,
    (error: unknown) => error,
  );
  await new Promise((resolve) => setTimeout(resolve, lastWordsMs));
  const notStarted = cause === undefined ? [] : [causeInWords(cause)];
  throw new EndedAtStart([...process.getRecentLogs(), ...notStarted], { cause });
}

/** The browser reads from the fourth of its streams and writes to the fifth. */
function transportTo({ nodeProcess }: Process): PipeTransport {
  const { 3: write, 4: read } = nodeProcess.stdio;
  return new PipeTransport(write as Writable, read as Readable);
}
