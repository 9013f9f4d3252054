import { createRequire } from 'node:module';
import type * as playwright from 'playwright-core';
import type { Browser as Driver, BrowserContext } from 'playwright-core';
import { BrowserError } from './errors.js';
import { whileRunning } from './in-context.js';
import {
  gateSwitches,
  noBypass,
  openOuterGate,
  proxyAddress,
  type GateWatch,
  type OuterGate,
  type Reach,
} from './outer-gate.js';
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

/**
 * Read only when a browser is needed: it is the largest of all modules. Required, since an import of a module of the old form is searched
 * for its exports first.
 */
const readDriver = () => createRequire(import.meta.url)('playwright-core') as typeof playwright;

/**
 * One process for all frames of a page, so that one protocol session sees them all; the network quality fixed, because
 * lazy images begin to load at a distance that depends on it; no frame painted before its images are decoded, so that
 * the largest paint does not depend on timing.
 */
const switches = [
  '--disable-gpu',
  '--disable-quic',
  '--no-first-run',
  '--disable-background-networking',
  '--disable-component-update',
  '--disable-sync',
  '--disable-site-isolation-trials',
  '--disable-features=IsolateOrigins,site-per-process,Translate,OptimizationHints,MediaRouter',
  '--disable-checker-imaging',
  '--force-effective-connection-type=4G',
];

export interface ContextWishes {
  /** Whether it is for a screen that is touched. */
  touch?: boolean;
  /** Whether pages may run scripts; they may if left out. */
  scripts?: boolean;
  /** Told all that is asked for in this context, whoever asks. */
  watch?: GateWatch | undefined;
}

/** A real browser that is started when first needed and again when it dies. */
export class Browser {
  #driver: Promise<Driver> | undefined;
  #version = '';
  #restarts = 0;
  #renewals = 0;
  /** Contexts that the running process was asked for. */
  #given = 0;
  /** Processes whose place another one has taken. */
  readonly #retired = new Set<Driver>();
  /** Open contexts of each process. */
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
   * Finds a browser, which is started once a context is asked for.
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
   * A fresh context, its cache empty, behind a gate of its own. The caller closes it, and gives each of its tabs a window.
   * @throws {BrowserError} when the browser does not start, or dies meanwhile
   */
  async context({ touch = false, scripts = true, watch }: ContextWishes = {}): Promise<BrowserContext> {
    const driver = await this.#started();
    this.#open.set(driver, (this.#open.get(driver) ?? 0) + 1);
    this.#renewWhenDue(driver);
    const gate = watch && (await openOuterGate(this.reach, watch));
    try {
      const context = await whileRunning(driver, () =>
        driver.newContext({
          viewport: null,
          hasTouch: touch,
          javaScriptEnabled: scripts,
          serviceWorkers: 'block',
          acceptDownloads: false,
          locale: 'en-US',
          timezoneId: 'UTC',
          ...(gate ? { proxy: { server: proxyAddress(gate), bypass: noBypass } } : {}),
        }),
      );
      context.once('close', () => {
        this.#closed(driver);
        void gate?.close();
      });
      return context;
    } catch (cause) {
      this.#closed(driver);
      await gate?.close();
      throw cause;
    }
  }

  async close(): Promise<void> {
    const driver = await this.#driver?.catch(() => undefined);
    this.#driver = undefined;
    await Promise.all([driver, ...this.#retired].map((each) => each?.close()));
    await this.gate.close();
    this.temporary.remove();
  }

  /** Lets the next context be one of another process; this one ends with its last context. */
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
    if (running?.isConnected()) return running;
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
      const { chromium } = readDriver();
      const driver = await chromium.launch({
        executablePath: this.found.executable,
        chromiumSandbox: this.sandbox,
        args: [...switches, ...gateSwitches(this.gate, this.reach)],
        timeout: startLimitMs,
        handleSIGINT: false,
        env: { ...definedVariables(), ...this.found.environment, TMPDIR: this.temporary.path },
      });
      this.#version = driver.version();
      return driver;
    } catch (cause) {
      const message = cause instanceof Error ? cause.message : String(cause);
      if (again && /has been closed/.test(message) && complaintIn(message) === undefined) {
        this.#restarts++;
        return this.#start(false);
      }
      const said = firstUsefulLine(message);
      const failure = new BrowserError(
        'BROWSER_DOES_NOT_START',
        `The browser "${this.found.executable}" does not start: ${said}. Try another with --browser PATH` +
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

const linesOf = (message: string) =>
  message.split('\n').map((line) => line.replace(/^[\s-]*(\[pid=\d+\]\[(err|out)\])?\s*/, '').trim());

/** Of a driver's long message, the line in which the browser itself says why it does not start. */
const complaintIn = (message: string): string | undefined =>
  linesOf(message).find((line) =>
    /error while loading|No usable sandbox|FATAL|cannot|ENOENT|EACCES/i.test(line),
  );

const firstUsefulLine = (message: string): string =>
  (complaintIn(message) ?? linesOf(message)[0] ?? '').slice(0, 300).replace(/\.$/, '');
