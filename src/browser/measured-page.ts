import type { CDPSession } from 'puppeteer-core';
import { Departures } from './departures.js';
import { VisitTimeout } from './errors.js';
import { Patience } from './patience.js';
import { NetworkLog } from './network-log.js';
import { readScript } from './own-scripts.js';
import { OwnWorlds } from './own-worlds.js';
import { stepsInWords } from './steps-in-words.js';
import type { PageAccess, Preparation } from './page-access.js';
import { PageWindow, type WindowShape } from './page-window.js';
import { preparePage } from './prepare-page.js';
import { RequestGate, type RequestPolicy } from './request-gate.js';
import type { Tab } from './tab.js';
import type { InPage, Measurement } from './in-page/protocol.js';

/** Share of the time of a visit that is waited for a page to get quiet; what still begins then may begin for ever, … */
const patientShare = 0.25;
/** … and is only let begin a little from there on, ms. */
const noPatienceMs = 300;

/** A page that sets itself timers without end is let be after so many. */
const mostTicks = 40;

/** Longer transitions are no change of slides. */
export const mostMotionMs = 1500;

/** Addresses that open other programs are never answered. */
const longestDepartureMs = 3000;

/** As they come over the wire. */
const mostScriptBytes = 250_000;

/** What a tab is opened for. */
export interface TabOrder extends PageAccess {
  screen: WindowShape;
  /** All that is done with it, ms. */
  limitMs: number;
}

/** One tab with its own protocol session, our script in a world of its own, and a deadline for everything. */
export class MeasuredPage {
  readonly log: NetworkLog;
  readonly departures: Departures;
  readonly #gate: RequestGate;
  readonly #worlds: OwnWorlds;
  /** What was waited for in vain. */
  readonly notReady: string[] = [];
  #crashed: Error | undefined;
  /** Ends each wait that is under way: of what is asked of a page that crashed nothing comes. */
  readonly #waits = new Set<(cause: Error) => void>();
  #restlessAt: string | undefined;
  readonly #deadline: number;

  private constructor(
    readonly session: CDPSession,
    private readonly window: PageWindow,
    readonly limitMs: number,
    mainFrame: string,
    policy: RequestPolicy,
    private readonly prepare: Preparation | undefined,
  ) {
    this.departures = new Departures(session, mainFrame);
    this.#deadline = performance.now() + limitMs;
    this.log = new NetworkLog(session);
    this.#gate = new RequestGate(session, this.log, this.departures, policy);
    this.#worlds = new OwnWorlds(session, mainFrame);
    let loaderId: string | undefined;
    session.on('Page.frameNavigated', ({ frame }) => {
      if (frame.id !== mainFrame) return;
      // What the new document asks for may have been told before this.
      if (loaderId !== undefined) this.#gate.drop(this.log.leave(loaderId));
      loaderId = frame.loaderId;
    });
    session.on('Inspector.targetCrashed', () => {
      const crashed = (this.#crashed ??= new Error('the page crashed in the browser'));
      for (const end of this.#waits) end(crashed);
    });
  }

  /** Makes a tab one whose image requests are held. Everything done with it must end within the limit. */
  static async open(
    { session }: Tab,
    order: TabOrder,
    onRefused: (url: string) => void,
  ): Promise<MeasuredPage> {
    const { limitMs } = order;
    const { frameTree } = await session.send('Page.getFrameTree');
    const policy = {
      allows: (url: string) => order.allows(url),
      answer: order.answer,
      onRefused,
    };
    const measured = new MeasuredPage(
      session,
      await PageWindow.open(session, order.screen),
      limitMs,
      frameTree.frame.id,
      policy,
      order.prepare,
    );
    await Promise.all([
      session.send('Network.enable'),
      session.send('Runtime.enable'),
      session.send('Inspector.enable'),
      measured.#gate.close(),
      measured.#worlds.begin(),
      session.send('Page.addScriptToEvaluateOnNewDocument', { source: readScript('page-timers') }),
    ]);
    return measured;
  }

  /** Waits for a promise, but no longer than the visit may take. */
  async within<Value>(step: string, work: Promise<Value>): Promise<Value> {
    work.catch(() => undefined);
    if (this.#crashed) throw this.#crashed;
    let timer: NodeJS.Timeout | undefined;
    let end: (cause: Error) => void = () => undefined;
    try {
      return await Promise.race([
        work,
        new Promise<never>((_, reject) => {
          end = reject;
          this.#waits.add(end);
          timer = setTimeout(
            () => reject(new VisitTimeout(step, this.limitMs)),
            Math.max(0, this.#deadline - performance.now()),
          );
        }),
      ]);
    } catch (cause) {
      // What was under way may fail first; that the page crashed says more.
      throw this.#crashed ?? cause;
    } finally {
      clearTimeout(timer);
      this.#waits.delete(end);
    }
  }

  /** Loads the document and waits until it is parsed; images are still held. */
  async load(url: string): Promise<void> {
    const { errorText } = await this.within(
      'asking for the document',
      this.session.send('Page.navigate', { url }),
    );
    if (errorText) throw new Error(`the document does not load: ${errorText}`);
    await this.staysHere('waiting for the document to be parsed');
    if (this.prepare) this.notReady.push(...(await preparePage(this, this.prepare)));
  }

  /** Waits while another document is on its way: this one anew, or one that the page leads to. Of what nothing is heard, nothing comes. */
  async staysHere(step: string): Promise<void> {
    const patience = performance.now() + longestDepartureMs;
    while (!this.departures.settled && !(this.departures.parsed && performance.now() > patience))
      await this.within(step, new Promise((resolve) => setTimeout(resolve, 5)));
  }

  /** Calls a function of the script inside the page. */
  async call<Name extends keyof InPage>(
    name: Name,
    ...args: Parameters<InPage[Name]>
  ): Promise<Awaited<ReturnType<InPage[Name]>>> {
    return this.within(stepsInWords[name], this.#worlds.call(name, args));
  }

  /** Everything that can be measured now, in the page and in the frames that it may look into. */
  measure(): Promise<Measurement> {
    return this.within('measuring the page', this.lookNow());
  }

  /** The same without a deadline: the caller sets one. */
  lookNow(): Promise<Measurement> {
    return this.#worlds.measure();
  }

  /**
   * Lets the page be: runs its timers of a second and more ahead, one after the other, for so many ms of the page's time.
   * @param look is called after each that was due
   */
  async runTimersAhead(forMs: number, look: () => Promise<void>): Promise<void> {
    for (let ticks = 0; ticks < mostTicks; ticks++) {
      const { result } = await this.within(
        'running the timers of the page ahead',
        this.session.send('Runtime.evaluate', {
          expression: `globalThis[Symbol.for('yukkuri timers')]?.runNext(${forMs}) ?? false`,
          returnByValue: true,
        }),
      );
      if (result.value !== true) return;
      await this.quiet('waiting after a timer of the page');
      // Slides come in by a transition, and are looked at where they come to rest.
      await this.call('motionEnds', mostMotionMs);
      await this.quiet('waiting after a timer of the page');
      await look();
    }
  }

  /**
   * What the window shows, as a PNG in device px. Never with a scale: that would lay the page out for
   * another density, and images would be picked anew.
   */
  async picture(): Promise<Buffer> {
    await this.within('resizing the window', this.window.show());
    const { data } = await this.within(
      'taking a picture of the page',
      this.session.send('Page.captureScreenshot', { format: 'png', optimizeForSpeed: true }),
    );
    await this.within('resizing the window', this.window.leave());
    return Buffer.from(data, 'base64');
  }

  /** The texts of the scripts that have come; those of whole applications, which make their images themselves, are left out. */
  async scripts(): Promise<string[]> {
    const bodies = this.log
      .scripts(mostScriptBytes)
      .map((requestId) => this.session.send('Network.getResponseBody', { requestId }).catch(() => undefined));
    const texts = await this.within('reading its scripts', Promise.all(bodies));
    const inline = (await this.call('scriptTexts')).filter(({ length }) => length <= mostScriptBytes);
    return [...inline, ...texts.flatMap((each) => (each && !each.base64Encoded ? [each.body] : []))];
  }

  /** Gives the window another size, CSS px; the next look at the page lays it out anew. */
  async resize(width: number, height: number): Promise<void> {
    await this.within('resizing the window', this.window.resize(width, height));
  }

  /** Lets the held images through. */
  release(): Promise<void> {
    return this.#gate.release();
  }

  /** Whether images with an address were asked for and are held. */
  holds(url: string): boolean {
    return this.#gate.holds(url);
  }

  /** Lets the held images with one address through, and goes on holding the others. */
  releaseOnly(url: string): Promise<void> {
    return this.#gate.releaseOnly(url);
  }

  /** Gives scripts time for the images in view that wait for them. */
  async scriptsComplete(): Promise<void> {
    if (await this.call('scriptsComplete')) await this.quiet('waiting for images that scripts ask for');
  }

  /**
   * Waits until nothing is under way: no request that is not held, and two looks in a row, some frames apart, that
   * see none begun in between. Frames, not time, because lazy images are asked for after the layout of a frame.
   */
  async quiet(step: string): Promise<void> {
    const patience = new Patience(
      this.#restlessAt === undefined ? this.limitMs * patientShare : noPatienceMs,
    );
    for (let calm = 0; calm < 2;) {
      if (patience.isOver(this.log.startedByScripts)) {
        this.#restlessAt ??= step;
        return;
      }
      const before = this.log.started;
      await this.call('settle', 2);
      if (this.log.running > 0) {
        calm = 0;
        await this.transfersEnd(step, patience.until);
      } else {
        calm = this.log.started === before ? calm + 1 : 0;
      }
    }
  }

  /** What was awaited when the page was let be because it never gets quiet; undefined where it does. */
  get restless(): string | undefined {
    return this.#restlessAt;
  }

  /** Waits until no transfer is under way that something may wait for, at most until a point in time (`performance.now`). */
  async transfersEnd(step: string, until = Number.POSITIVE_INFINITY): Promise<void> {
    while (this.log.running > 0 && performance.now() < until)
      await this.within(step, new Promise((resolve) => setTimeout(resolve, 5)));
  }
}
