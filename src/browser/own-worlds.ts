import type { CDPSession } from 'puppeteer-core';
import { causeInWords } from '../core/wording/words.js';
import { LeftMeanwhile } from './errors.js';
import { inFrame, moved } from './frames.js';
import { readScript } from './own-scripts.js';
import type { InPage, Measurement, ObservedPlacement } from './in-page/protocol.js';

const worldName = 'yukkuri';

/** What the protocol says of a document that was left while it was asked. */
const leftMeanwhile =
  /uniqueContextId not found|Cannot find context|context was destroyed|target navigated|Promise was collected/i;

/** As the protocol tells it. */
interface FrameTree {
  frame: { id: string };
  childFrames?: FrameTree[];
}

/** Our script in a tab: it runs in a world of its own in the document and in each of its frames. */
export class OwnWorlds {
  /** Our world in each frame, by the frame. */
  readonly #worlds = new Map<string, string>();

  constructor(
    private readonly session: CDPSession,
    private readonly mainFrame: string,
  ) {
    session.on('Runtime.executionContextCreated', ({ context }) => {
      const { frameId, isDefault } = (context.auxData ?? {}) as { frameId?: string; isDefault?: boolean };
      if (context.name === worldName && !isDefault && frameId !== undefined)
        this.#worlds.set(frameId, context.uniqueId);
    });
  }

  /** From here on each document has one. */
  async begin(): Promise<void> {
    await this.session.send('Page.addScriptToEvaluateOnNewDocument', {
      source: readScript('in-page'),
      worldName,
    });
  }

  /**
   * Calls a function of our script.
   * @param frame the whole page if left out
   * @throws {LeftMeanwhile} when the document is left while it is asked
   */
  async call<Name extends keyof InPage>(
    name: Name,
    args: Parameters<InPage[Name]>,
    frame = this.mainFrame,
  ): Promise<Awaited<ReturnType<InPage[Name]>>> {
    const world = this.#worlds.get(frame);
    const expression = `yukkuri.${name}(${args.map((value) => JSON.stringify(value)).join(',')})`;
    const { result, exceptionDetails } = await this.session
      .send('Runtime.evaluate', {
        expression,
        returnByValue: true,
        awaitPromise: true,
        ...(world === undefined ? {} : { uniqueContextId: world }),
      })
      .catch((cause: unknown) => {
        throw leftMeanwhile.test(causeInWords(cause)) ? new LeftMeanwhile({ cause }) : cause;
      });
    if (exceptionDetails)
      throw new Error(`measuring in the page failed: ${exceptionDetails.exception?.description}`);
    return result.value as Awaited<ReturnType<InPage[Name]>>;
  }

  /** Everything that can be measured now, in the page and in the frames that it may look into. */
  async measure(): Promise<Measurement> {
    const whole = await this.call('measure', []);
    const { frameTree } = await this.session.send('Page.getFrameTree');
    return { ...whole, placements: [...whole.placements, ...(await this.#lookInto(frameTree))] };
  }

  /** What the frames in a document show, each placed in the whole page. */
  async #lookInto({ childFrames = [] }: FrameTree): Promise<ObservedPlacement[]> {
    const found: ObservedPlacement[] = [];
    for (const child of childFrames) {
      const { id } = child.frame;
      if (!this.#worlds.has(id)) continue;
      // Frames of other origins cannot be placed, and frames may go away at any time.
      const place = await this.call('framePlace', [], id).catch(() => null);
      if (!place) continue;
      const own = await this.call('measure', [], id).catch(() => undefined);
      const inner = await this.#lookInto(child);
      for (const placement of [
        ...(own?.placements ?? []).map((each) => inFrame(each, place, own?.baseUrl ?? '')),
        ...inner.map((each) => moved(each, place)),
      ])
        found.push(placement);
    }
    return found;
  }
}
