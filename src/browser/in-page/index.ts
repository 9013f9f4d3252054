import { breakpoints } from './breakpoints.js';
import { imageElements, observe, slotSizes, widthsFromFile } from './placements.js';
import { elementBoxes } from './element-boxes.js';
import { uniqueSelector } from './selector.js';
import { imagesArrive, markPlaces, pendingImages, shiftsSinceMark } from './shifts.js';
import { nodeName } from './identity.js';
import { linkedImages } from './linked-images.js';
import { styledImages } from './styled-images.js';
import type { InPage, Measurement } from './protocol.js';
import { pictureWraps } from './picture-wraps.js';
import { framePlace } from './frame-place.js';
import { scrollInner, scrollMain, scrollRange, wholeHeight } from './scrolling.js';
import { forgetRules } from './style-rules.js';

let largestPaint: Element | null = null;

const note = (entries: readonly PerformanceEntry[]) => {
  for (const entry of entries) largestPaint = (entry as LargestPaintEntry).element ?? null;
};
const paints = new PerformanceObserver((list) => note(list.getEntries()));
paints.observe({ type: 'largest-contentful-paint', buffered: true });

/** Largest Contentful Paint, section 4: the entry's element is null when it left the document. */
interface LargestPaintEntry extends PerformanceEntry {
  element?: Element | null;
}

/** Frames in a row without a new paint entry that count as all being painted. */
const calmFrames = 3;

/** Waits until what has loaded in the first view is decoded, painted and reported. */
async function paintsReported(): Promise<void> {
  const inView = [...document.images].filter(
    (image) => image.complete && image.getBoundingClientRect().top < innerHeight,
  );
  await Promise.allSettled(inView.map((image) => image.decode()));
  for (let calm = 0; calm < calmFrames;) {
    const before = largestPaint;
    await frame();
    await new Promise((resolve) => setTimeout(resolve));
    note(paints.takeRecords());
    calm = largestPaint === before ? calm + 1 : 0;
  }
}

async function motionEnds(mostMs: number): Promise<void> {
  const moving = document
    .getAnimations()
    .filter(
      ({ effect, playState }) =>
        playState === 'running' && Number.isFinite(effect?.getComputedTiming().endTime),
    );
  if (moving.length === 0) return;
  const rest = Promise.allSettled(moving.map(({ finished }) => finished));
  await Promise.race([rest, new Promise((resolve) => setTimeout(resolve, mostMs))]);
}

const root = () => document.scrollingElement ?? document.documentElement;
const frame = () => new Promise((resolve) => requestAnimationFrame(resolve));

const measurement = (): Measurement => ({
  placements: [...imageElements().map(observe), ...linkedImages(), ...styledImages()],
  scripted: document.scripts.length > 0,
  documentHeight: wholeHeight(),
  documentWidth: root().scrollWidth,
  baseUrl: document.baseURI,
  viewportWidth: document.documentElement.clientWidth,
  viewportHeight: innerHeight,
  largestPaint: largestPaint?.isConnected ? uniqueSelector(largestPaint) : null,
  scrollMatters:
    document.scripts.length > 0 || document.querySelector('[loading="lazy" i], video, iframe') !== null,
});

const inPage: InPage = {
  measure: () => {
    forgetRules();
    return measurement();
  },
  settle: async (frames) => {
    await document.fonts.ready;
    for (let count = 0; count < frames; count++) await frame();
  },
  paintsReported,
  motionEnds,
  slotSizes,
  widthsFromFile,
  matching: (selector) =>
    imageElements()
      .filter((element) => element.closest(selector) !== null)
      .map(nodeName),
  breakpoints,
  markPlaces,
  shiftsSinceMark,
  pendingImages,
  imagesArrive,
  scrollTo: scrollMain,
  scrollRange,
  scrollInner,
  framePlace,
  elementBoxes,
  pictureWraps,
};

Object.assign(globalThis, { yukkuri: inPage });
