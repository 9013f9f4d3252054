import { native, nativeDocument } from './native.js';
import { breakpoints } from './breakpoints.js';
import { imageElements, observe, slotSizes } from './placements.js';
import { holdEndless } from './endless-motion.js';
import { elementBoxes } from './element-boxes.js';
import { uniqueSelector } from './selector.js';
import { areFarBelow } from './far-below.js';
import { imagesArrive, imagesWait, pendingImages, scriptsComplete } from './arrivals.js';
import { markPlaces, shiftsSinceMark } from './shifts.js';
import { nodeName } from './identity.js';
import { nextFrame } from './next-frame.js';
import { linkedImages } from './linked-images.js';
import { styledImages } from './styled-images.js';
import type { InPage, Measurement } from './protocol.js';
import { followingFile } from './following-file.js';
import { widthLimits } from './width-limits.js';
import { scriptTexts, writtenImages } from './written-images.js';
import { pictureWraps } from './picture-wraps.js';
import { layoutViewport } from './layout-viewport.js';
import { framePlace } from './frame-place.js';
import { scrollInner, scrollMain, scrollRange, seenAtOnce, wholeHeight } from './scrolling.js';
import { asPainted, stopPainting } from './unpainted.js';
import { sourcesSettled } from './sources-settled.js';
import { shownAlike } from './shown-alike.js';
import { widthsFromFile } from './widths-from-file.js';
import { withinMs } from './within.js';
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

/** A picture that takes longer to decode is let be, ms. */
const longestDecodeMs = 5000;
/** So long do browsers keep text hidden for a font: CSS Fonts Level 4, section 4.9. ms. */
const longestFontMs = 3000;
let fontsAwaited = true;

/** Waits until what has loaded in the first view is decoded, painted and reported. */
async function paintsReported(): Promise<void> {
  const inView = [...nativeDocument.images].filter(
    (image) => image.complete && image.getBoundingClientRect().top < innerHeight,
  );
  await withinMs(longestDecodeMs, Promise.allSettled(inView.map((image) => image.decode())));
  for (let calm = 0; calm < calmFrames;) {
    const before = largestPaint;
    await nextFrame();
    await new Promise((resolve) => setTimeout(resolve));
    note(paints.takeRecords());
    calm = largestPaint === before ? calm + 1 : 0;
  }
}

async function motionEnds(mostMs: number): Promise<void> {
  const moving = nativeDocument
    .getAnimations()
    .filter(
      ({ effect, playState }) =>
        playState === 'running' && Number.isFinite(effect?.getComputedTiming().endTime),
    );
  if (moving.length === 0) return;
  const rest = Promise.allSettled(moving.map(({ finished }) => finished));
  await Promise.race([rest, new Promise((resolve) => setTimeout(resolve, mostMs))]);
}

async function appears(selector: string, mostMs: number): Promise<boolean> {
  const until = performance.now() + mostMs;
  while (nativeDocument.querySelector(selector) === null) {
    if (performance.now() > until) return false;
    await nextFrame();
  }
  return true;
}

const clickOn = (selector: string) =>
  void (nativeDocument.querySelector(selector) as HTMLElement | null)?.click();

const root = () => nativeDocument.scrollingElement ?? nativeDocument.documentElement;

const measurement = (): Measurement => ({
  placements: [...imageElements().map(observe), ...linkedImages(), ...styledImages()],
  scripted: nativeDocument.scripts.length > 0,
  documentHeight: wholeHeight(),
  documentWidth: root().scrollWidth,
  baseUrl: nativeDocument.baseURI,
  viewportWidth: nativeDocument.documentElement.clientWidth,
  viewportHeight: innerHeight,
  seenHeight: seenAtOnce(),
  layoutViewport: layoutViewport(),
  largestPaint: largestPaint && native(largestPaint).isConnected ? uniqueSelector(largestPaint) : null,
});

/** Whether a part of the page has its own height only once it is near. CSS Containment Module Level 2, section 4 "content-visibility". */
const isLaidOutLate = () =>
  [...nativeDocument.querySelectorAll('*')].some(
    (element) => getComputedStyle(element).contentVisibility === 'auto',
  );

/** All `img`, in shadow trees too. */
const imageTags = () => imageElements().filter((element) => element instanceof HTMLImageElement);

const inPage: InPage = {
  measure: () => {
    forgetRules();
    return asPainted(measurement);
  },
  settle: async (frames) => {
    if (fontsAwaited)
      fontsAwaited = (await withinMs(longestFontMs, nativeDocument.fonts.ready)) !== undefined;
    for (let count = 0; count < frames; count++) await nextFrame();
  },
  appears,
  clickOn,
  paintsReported,
  stopPainting,
  motionEnds,
  holdEndless,
  slotSizes: async () => {
    await sourcesSettled();
    return slotSizes();
  },
  widthsFromFile: () => widthsFromFile(imageTags()),
  shownAlike: () => shownAlike(imageTags()),
  matching: (selector) =>
    imageElements()
      .filter((element) => native(element).closest(selector) !== null)
      .map(nodeName),
  scriptTexts,
  writtenImages: (scripts) => writtenImages(imageTags(), scripts),
  breakpoints,
  markPlaces,
  shiftsSinceMark,
  pendingImages,
  imagesArrive,
  areFarBelow,
  scriptsComplete,
  scrollTo: scrollMain,
  scrollMatters: () =>
    nativeDocument.scripts.length > 0 ||
    nativeDocument.querySelector('[loading="lazy" i], video, iframe') !== null ||
    isLaidOutLate(),
  scrollMattersStill: () => imagesWait() || isLaidOutLate(),
  scrollRange,
  scrollInner,
  framePlace,
  elementBoxes,
  followingFile,
  widthLimits: () => widthLimits(imageTags()),
  pictureWraps: (selectors) => asPainted(() => pictureWraps(selectors)),
};

Object.assign(globalThis, { yukkuri: inPage });
