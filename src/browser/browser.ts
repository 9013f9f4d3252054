import { causeInWords } from '../core/wording/words.js';
import { BrowserProcess, type BrowserProcessOrder } from './browser-process.js';
import { EndedAtStart } from './driver.js';
import { BrowserError, died } from './errors.js';
import { findBrowser, type FoundBrowser } from './find.js';
import { keepProcess, takeKeptProcess } from './kept-process.js';
import {
  noBypass,
  openOuterGate,
  proxyAddress,
  type GateWatch,
  type OuterGate,
  type Reach,
} from './outer-gate.js';
import type { Tab, TabWishes } from './tab.js';

export interface BrowserOptions {
  /** Path of the program; found by itself if left out. */
  path?: string;
  /** Chromium's own sandbox: on, unless the user is root, for whom Chromium refuses to start with it. */
  sandbox?: boolean;
  /** After so many contexts another process takes its place, so that it does not grow with the site. */
  contextsEach?: number;
}

/** The browser takes about 20 kB more with each look at a page that it has had (docs/performance.md). */
const usualContextsEach = 500;

/** What a tab is opened for; pages in it may run scripts if that is left out. */
export interface TabOptions {
  touch?: boolean;
  scripts?: boolean | undefined;
  cookies?: TabWishes['cookies'] | undefined;
  /** Told all that is asked for in this tab, whoever asks. */
  watch?: GateWatch | undefined;
}

/** A real browser that is started when first needed and again when it dies. */
export class Browser {
  #process: Promise<BrowserProcess> | undefined;
  #version = '';
  #restarts = 0;
  #renewals = 0;
  /** Tabs that were asked for since another process took its place, and those that the one that was taken had had. */
  #given = 0;
  /** Processes whose place another one has taken. */
  readonly #retired = new Set<BrowserProcess>();
  /** Once it did not start at all, it is not tried again for each page. */
  #startsNot: unknown;

  private constructor(
    readonly found: FoundBrowser,
    private readonly order: BrowserProcessOrder,
    /** Of all tabs that are not watched. */
    private readonly gate: OuterGate,
    private readonly reach: Reach,
    private readonly contextsEach: number,
  ) {}

  /**
   * Finds a browser, which is started once a tab is asked for.
   * @param reach what it may ask for, whoever asks in it
   * @throws {BrowserError} when there is none
   */
  static async find(options: BrowserOptions | undefined, reach: Reach): Promise<Browser> {
    const found = await findBrowser(options?.path);
    const order: BrowserProcessOrder = {
      found,
      sandbox: options?.sandbox ?? process.getuid?.() !== 0,
      everywhere: reach.everywhere ?? false,
      environment: { ...definedVariables(), ...found.environment },
    };
    const contextsEach = options?.contextsEach ?? usualContextsEach;
    return new Browser(found, order, await openOuterGate(reach), reach, contextsEach);
  }

  /**
   * Finds a browser and starts it.
   * @throws {BrowserError} when there is none or it does not start
   */
  static async open(options: BrowserOptions | undefined, reach: Reach): Promise<Browser> {
    const browser = await Browser.find(options, reach);
    try {
      await browser.start();
      return browser;
    } catch (cause) {
      await browser.close();
      throw cause;
    }
  }

  /**
   * Starts it, unless it runs.
   * @throws {BrowserError} when it does not start
   */
  async start(): Promise<void> {
    await this.#started();
  }

  /** How often it had to be started anew because it died. */
  get restarts(): number {
    return this.#restarts;
  }

  /** How often another process took its place, so that none grows with the site. */
  get renewals(): number {
    return this.#renewals;
  }

  /** For example `147.0.7727.0`; empty until it was started. */
  get version(): string {
    return this.#version;
  }

  /**
   * Does something with a tab of its own, its cache empty, behind a gate of its own, and closes it.
   * @throws {BrowserError} when the browser does not start, or dies meanwhile (by now another may run in its place); else whatever the work
   * throws
   */
  async inTab<Result>(options: TabOptions, work: (tab: Tab) => Promise<Result>): Promise<Result> {
    const own = await this.#started();
    const { touch = false, scripts = true, cookies = [], watch } = options;
    let gate: OuterGate | undefined;
    const wishes = async () => {
      gate = watch && (await openOuterGate(this.reach, watch));
      return {
        touch,
        scripts,
        cookies,
        proxy: { server: proxyAddress(gate ?? this.gate), bypass: noBypass },
      };
    };
    try {
      const result = own.inTab(wishes, work);
      this.#renewWhenDue(own);
      return await result;
    } catch (cause) {
      throw (await own.stillRuns()) ? cause : died(cause);
    } finally {
      await gate?.close();
      this.#endWhenRetired(own);
    }
  }

  /** Whatever of it is in use ends; a process that is not is kept for a while, for the next browser of this kind. */
  async close(): Promise<void> {
    const own = await this.#process?.catch(() => undefined);
    this.#process = undefined;
    await Promise.all([
      own?.isIdle ? keepProcess(own, this.#kind) : own?.close(),
      ...[...this.#retired].map((each) => each.close()),
    ]);
    await this.gate.close();
  }

  get #kind(): string {
    return JSON.stringify(this.order);
  }

  /** Lets the next tab be one of another process; this one ends with its last tab. */
  #renewWhenDue(own: BrowserProcess): void {
    if (++this.#given < this.contextsEach) return;
    this.#given = 0;
    this.#renewals++;
    this.#process = undefined;
    this.#retired.add(own);
  }

  #endWhenRetired(own: BrowserProcess): void {
    if (own.hasTabs || !this.#retired.has(own)) return;
    void own
      .close()
      .catch(() => undefined)
      .finally(() => this.#retired.delete(own));
  }

  async #started(): Promise<BrowserProcess> {
    const known = this.#process;
    const running = await known?.catch(() => undefined);
    if (running?.isConnected) return running;
    if (this.#startsNot !== undefined) throw this.#startsNot;
    // Several visits may find it dead at once: the first starts it anew, the others wait for that.
    if (!this.#process || this.#process === known) {
      if (known) this.#restarts++;
      this.#process = this.#takeOrStart(running);
    }
    return this.#process;
  }

  async #takeOrStart(dead: BrowserProcess | undefined): Promise<BrowserProcess> {
    await dead?.close();
    const own = (await takeKeptProcess(this.#kind, this.contextsEach)) ?? (await this.#start());
    this.#given += own.tabsGiven;
    this.#version = own.version;
    return own;
  }

  /** Starts it; once more where it died while it started, without a word of why. */
  async #start(again = true): Promise<BrowserProcess> {
    try {
      return await BrowserProcess.start(this.order);
    } catch (cause) {
      const said = cause instanceof EndedAtStart ? complaintIn(cause.said) : causeInWords(cause);
      if (again && said === undefined) {
        this.#restarts++;
        return this.#start(false);
      }
      const failure = cause instanceof BrowserError ? cause : this.#doesNotStart(said, cause);
      if (this.#version === '') this.#startsNot = failure;
      throw failure;
    }
  }

  #doesNotStart(said: string | undefined, cause: unknown): BrowserError {
    return new BrowserError(
      'BROWSER_DOES_NOT_START',
      `The browser "${this.found.executable}" does not start: ${plainly(said ?? causeInWords(cause))}. Try another with --browser PATH` +
        `${this.order.sandbox ? '; in a container without user namespaces, --no-sandbox may be needed' : ''}.`,
      { cause },
    );
  }
}

function definedVariables(): Record<string, string> {
  return Object.fromEntries(
    Object.entries(process.env).filter((entry): entry is [string, string] => entry[1] !== undefined),
  );
}

/** Of what a browser said, the line in which it tells why it does not start. */
const complaintIn = (lines: readonly string[]): string | undefined =>
  lines.find((line) => /error while loading|No usable sandbox|FATAL|cannot|ENOENT|EACCES/i.test(line));

const plainly = (line: string): string => line.trim().slice(0, 300).replace(/\.$/, '');
