import { forgetPlaces, lookAround } from './moved-nodes.js';
import type { SeenShifts } from './protocol.js';

/** Layout Instability, section 5: the entry that the browser reports. */
interface LayoutShiftEntry extends PerformanceEntry {
  value: number;
}

let reported = 0;
const note = (entries: readonly PerformanceEntry[]) => {
  for (const entry of entries) reported += (entry as LayoutShiftEntry).value;
};
const observer = new PerformanceObserver((list) => note(list.getEntries()));
observer.observe({ type: 'layout-shift', buffered: true });

/** The layout-shift values that were reported since this was asked last. */
function takeReported(): number {
  note(observer.takeRecords());
  const sum = reported;
  reported = 0;
  return sum;
}

/** Remembers where everything is, and forgets the shifts reported so far. */
export function markPlaces(): void {
  forgetPlaces();
  lookAround(viewport());
  takeReported();
}

/**
 * What moved since the last look, by this function or by `markPlaces`, and the sum of the shifts that the browser has reported since. In
 * a frame that clips, the browser takes what moved along with the frame as not moved; the frame itself counts.
 */
export function shiftsSinceMark(): SeenShifts {
  return { moved: lookAround(viewport()), reported: takeReported(), viewport: viewport() };
}

/** On touch screens a page that is too wide is shown smaller, so that more of it is in view: shifts count in that larger view. */
const viewport = () => ({
  width: visualViewport?.width ?? innerWidth,
  height: visualViewport?.height ?? innerHeight,
});
