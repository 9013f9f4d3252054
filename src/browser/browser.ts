import { join } from 'node:path';
import { causeInWords } from '../core/wording/words.js';
import { Driver, EndedAtStart } from './driver.js';
import { BrowserError, died } from './errors.js';
import {
  gateSwitches,
  noBypass,
  openOuterGate,
  proxyAddress,
  type GateWatch,
  type OuterGate,
  type Reach,
} from './outer-gate.js';
import type { Tab, TabWishes } from './tab.js';
import { TemporaryFolder } from './temporary-folder.js';
import { findBrowser, type FoundBrowser } from './find.js';

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

const startLimitMs = 30_000;

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
  #driver: Promise<Driver> | undefined;
  #version = '';
  #restarts = 0;
  #renewals = 0;
  /** Of which each has a profile of its own. */
  #processes = 0;
  /** Tabs that the running process was asked for. */
  #given = 0;
  /** Processes whose place another one has taken. */
  readonly #retired = new Set<Driver>();
  /** Open tabs of each process. */
  readonly #open = new Map<Driver, number>();
  /** Once it did not start at all, it is not tried again for each page. */
  #startsNot: unknown;

  private constructor(
    readonly found: FoundBrowser,
    readonly sandbox: boolean,
    readonly gate: OuterGate,
    readonly reach: Reach,
    /** What the browser leaves behind when it is killed goes with this. */
    private readonly temporary: TemporaryFolder,
    private readonly contextsEach: number,
  ) {}

  /**
   * Finds a browser, which is started once a tab is asked for.
   * @param reach what it may ask for, whoever asks in it
   * @throws {BrowserError} when there is none
   */
  static async find(options: BrowserOptions | undefined, reach: Reach): Promise<Browser> {
    const sandbox = options?.sandbox ?? process.getuid?.() !== 0;
    const found = await findBrowser(options?.path);
    const temporary = new TemporaryFolder('browser');
    const contextsEach = options?.contextsEach ?? usualContextsEach;
    return new Browser(found, sandbox, await openOuterGate(reach), reach, temporary, contextsEach);
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
    const driver = await this.#started();
    this.#open.set(driver, (this.#open.get(driver) ?? 0) + 1);
    this.#renewWhenDue(driver);
    const { touch = false, scripts = true, cookies = [], watch } = options;
    const gate = watch && (await openOuterGate(this.reach, watch));
    const proxy = gate && { server: proxyAddress(gate), bypass: noBypass };
    let tab: Tab | undefined;
    try {
      tab = await driver.openTab({ touch, scripts, cookies, proxy });
      const opened = tab;
      return await driver.whileRunning(() => work(opened));
    } catch (cause) {
      throw (await driver.stillRuns()) ? cause : died(cause);
    } finally {
      await driver.whileRunning(async () => tab?.close()).catch(() => undefined);
      await gate?.close();
      this.#closed(driver);
    }
  }

  async close(): Promise<void> {
    const driver = await this.#driver?.catch(() => undefined);
    this.#driver = undefined;
    await Promise.all([driver, ...this.#retired].map((each) => each?.close()));
    await this.gate.close();
    this.temporary.remove();
  }

  /** Lets the next tab be one of another process; this one ends with its last tab. */
  #renewWhenDue(driver: Driver): void {
    if (++this.#given < this.contextsEach) return;
    this.#given = 0;
    this.#renewals++;
    this.#driver = undefined;
    this.#retired.add(driver);
  }

  #closed(driver: Driver): void {
    const left = (this.#open.get(driver) ?? 1) - 1;
    if (left > 0) {
      this.#open.set(driver, left);
      return;
    }
    this.#open.delete(driver);
    if (this.#retired.has(driver))
      void driver
        .close()
        .catch(() => undefined)
        .finally(() => this.#retired.delete(driver));
  }

  async #started(): Promise<Driver> {
    const known = this.#driver;
    const running = await known?.catch(() => undefined);
    if (running?.isConnected) return running;
    if (this.#startsNot !== undefined) throw this.#startsNot;
    // Several visits may find it dead at once: the first starts it anew, the others wait for that.
    if (!this.#driver || this.#driver === known) {
      if (known) this.#restarts++;
      this.#driver = this.#start();
    }
    return this.#driver;
  }

  /** Starts it; once more where it died while it started, without a word of why. */
  async #start(again = true): Promise<Driver> {
    try {
      const driver = await Driver.launch({
        executable: this.found.executable,
        switches: [...(this.sandbox ? [] : ['--no-sandbox']), ...gateSwitches(this.gate, this.reach)],
        environment: { ...definedVariables(), ...this.found.environment, TMPDIR: this.temporary.path },
        profile: join(this.temporary.path, `profile-${++this.#processes}`),
        limitMs: startLimitMs,
      });
      this.#version = driver.version;
      return driver;
    } catch (cause) {
      const said = cause instanceof EndedAtStart ? complaintIn(cause.said) : causeInWords(cause);
      if (again && said === undefined) {
        this.#restarts++;
        return this.#start(false);
      }
      const failure = new BrowserError(
        'BROWSER_DOES_NOT_START',
        `The browser "${this.found.executable}" does not start: ${plainly(said ?? causeInWords(cause))}. Try another with --browser PATH` +
          `${this.sandbox ? '; in a container without user namespaces, --no-sandbox may be needed' : ''}.`,
        { cause },
      );
      if (this.#version === '') this.#startsNot = failure;
      throw failure;
    }
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
