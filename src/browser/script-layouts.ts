import { setTimeout as wait } from 'node:timers/promises';
import { sweepWindow } from './sweep-window.js';
import type { MeasuredPage } from './measured-page.js';

/** How a page is given time after each resize of its window: scripts that lay it out hear of that a frame later, or let it rest first. */
export interface Rest {
  frames: number;
  ms: number;
}

export const noRest: Rest = { frames: 0, ms: 0 };
/** The event comes with the next frame, and what was put off to a frame with the one behind it. */
const nextFrames: Rest = { frames: 3, ms: 0 };
/** Resizes are mostly acted on once there was none for a quarter of a second. */
const late: Rest = { frames: 3, ms: 400 };

/** Far apart, so that hardly a layout is the same at both. CSS px. */
const triedWidths = [1300, 480];

/** Gives a page the time that it needs after a resize. */
export async function rest(page: MeasuredPage, { frames, ms }: Rest): Promise<void> {
  if (ms > 0) await page.within('waiting for what scripts do once the window is resized', wait(ms));
  if (frames > 0) await page.call('settle', frames);
}

/**
 * Resizes a page with scripts to a few widths and looks whether they change its slots late. What never comes to rest is not waited for. (A
 * look at once would tell nothing of the next frames: on a busy machine they are over before it.)
 */
export async function restAfterResize(page: MeasuredPage): Promise<Rest> {
  const slots = async () => JSON.stringify(await page.call('slotSizes'));
  for (const width of triedWidths) {
    await page.resize(width, sweepWindow.height);
    await rest(page, nextFrames);
    const soon = await slots();
    await rest(page, late);
    const later = await slots();
    if (soon === later) continue;
    await rest(page, late);
    if ((await slots()) === later) return late;
  }
  return nextFrames;
}
