import type { CDPSession } from 'puppeteer-core';
import type { Screen } from '../core/run/index.js';

/** What a page is laid out for. */
export type WindowShape = Pick<Screen, 'width' | 'height' | 'density' | 'touch'>;

/** So much of a window is drawn where nobody looks at it, CSS px each way. */
const speck = 1;

/**
 * The window of one tab: pages are laid out, scroll and load for its whole size, while only a speck of it is drawn once nobody looks at it.
 * Without a graphics processor each frame of a whole window costs as much time as its layout.
 */
export class PageWindow {
  /** Whether the browser draws another part of a window than it lays out; all of it is drawn where it does not. */
  #drawsApart = true;

  private constructor(
    private readonly session: CDPSession,
    private shape: WindowShape,
  ) {}

  /**
   * Gives a tab the window of a screen.
   * @param drawn whether all of it is drawn, until it is left
   */
  static async open(session: CDPSession, shape: WindowShape, drawn = false): Promise<PageWindow> {
    const window = new PageWindow(session, shape);
    await window.#layOut();
    await (drawn ? window.#draw(shape.width, shape.height) : window.leave());
    return window;
  }

  /** From here on all of it is drawn, until it is left. */
  show(): Promise<void> {
    return this.#draw(this.shape.width, this.shape.height);
  }

  /** From here on nobody looks at it. */
  leave(): Promise<void> {
    return this.#draw(speck, speck);
  }

  /** Another size, CSS px; the next look at the page lays it out anew. */
  async resize(width: number, height: number): Promise<void> {
    this.shape = { ...this.shape, width, height };
    await this.#layOut();
  }

  async #layOut(): Promise<void> {
    const { width, height, density, touch } = this.shape;
    const isPortrait = touch && height >= width;
    await this.session.send('Emulation.setDeviceMetricsOverride', {
      width,
      height,
      screenWidth: width,
      screenHeight: height,
      deviceScaleFactor: density,
      mobile: touch,
      screenOrientation: isPortrait
        ? { angle: 0, type: 'portraitPrimary' }
        : { angle: touch ? 90 : 0, type: 'landscapePrimary' },
      dontSetVisibleSize: this.#drawsApart,
    });
  }

  async #draw(width: number, height: number): Promise<void> {
    if (!this.#drawsApart) return;
    try {
      await this.session.send('Emulation.setVisibleSize', { width, height });
    } catch {
      this.#drawsApart = false;
      await this.#layOut();
    }
  }
}
