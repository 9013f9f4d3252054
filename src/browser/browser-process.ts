import { join } from 'node:path';
import { Driver } from './driver.js';
import type { FoundBrowser } from './find.js';
import { gateSwitches, openOuterGate, type OuterGate } from './outer-gate.js';
import type { Tab, TabWishes } from './tab.js';
import { TemporaryFolder } from './temporary-folder.js';

const startLimitMs = 30_000;

/** What a browser process is started with; two that agree in all of it do the same. */
export interface BrowserProcessOrder {
  found: FoundBrowser;
  /** Chromium's own sandbox. */
  sandbox: boolean;
  /** Whether names of hosts may be looked up; else there is but this machine. */
  everywhere: boolean;
  environment: Readonly<Record<string, string>>;
}

/** One browser process with what goes when it goes: its files, and the proxy of what asks outside of any tab, which lets nothing through. */
export class BrowserProcess {
  /** Tabs that it was asked for. */
  tabsGiven = 0;
  #tabsOpen = 0;
  #isClean = true;

  private constructor(
    private readonly driver: Driver,
    private readonly gate: OuterGate,
    private readonly temporary: TemporaryFolder,
  ) {}

  /**
   * @throws {BrowserError} where there is no room for its files
   * @throws {EndedAtStart} when it goes away at once
   * @throws {Error} when it does not answer in time
   */
  static async start({
    found,
    sandbox,
    everywhere,
    environment,
  }: BrowserProcessOrder): Promise<BrowserProcess> {
    const temporary = new TemporaryFolder('browser');
    const gate = await openOuterGate({ allows: () => false });
    gate.unref();
    try {
      const driver = await Driver.launch({
        executable: found.executable,
        switches: [...(sandbox ? [] : ['--no-sandbox']), ...gateSwitches(gate, everywhere)],
        environment: { ...environment, TMPDIR: temporary.path },
        profile: join(temporary.path, 'profile'),
        limitMs: startLimitMs,
      });
      return new BrowserProcess(driver, gate, temporary);
    } catch (cause) {
      await gate.close();
      temporary.remove();
      throw cause;
    }
  }

  get version(): string {
    return this.driver.version;
  }

  get isConnected(): boolean {
    return this.driver.isConnected;
  }

  /** Whether it runs, has no tab open, and closed all that it had. */
  get isIdle(): boolean {
    return this.isConnected && this.#isClean && this.#tabsOpen === 0;
  }

  get hasTabs(): boolean {
    return this.#tabsOpen > 0;
  }

  stillRuns(): Promise<boolean> {
    return this.driver.stillRuns();
  }

  /**
   * Does something with a tab of its own, and closes it. It counts from the call on.
   * @param wishes what the tab is opened for
   * @throws {BrowserError} when the browser dies meanwhile; else whatever the work throws
   */
  async inTab<Result>(
    wishes: () => Promise<TabWishes>,
    work: (tab: Tab) => Promise<Result>,
  ): Promise<Result> {
    this.tabsGiven++;
    this.#tabsOpen++;
    let tab: Tab | undefined;
    try {
      tab = await this.driver.openTab(await wishes());
      const opened = tab;
      return await this.driver.whileRunning(() => work(opened));
    } finally {
      await this.driver
        .whileRunning(async () => tab?.close())
        .catch(() => {
          this.#isClean = false;
        });
      this.#tabsOpen--;
    }
  }

  /** While nobody needs it the program may end before it. */
  setNeeded(isNeeded: boolean): void {
    this.driver.setNeeded(isNeeded);
  }

  /** Ends it at once, where nothing can be waited for. */
  kill(): void {
    this.driver.kill();
  }

  async close(): Promise<void> {
    await this.driver.close();
    await this.gate.close();
    this.temporary.remove();
  }
}
