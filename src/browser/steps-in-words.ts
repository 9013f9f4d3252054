import type { InPage } from './in-page/protocol.js';

/** What is under way when a page does not answer, as its user would say it. */
export const stepsInWords: Record<keyof InPage, string> = {
  measure: 'looking where its images are',
  framePlace: 'looking where a frame is',
  settle: 'waiting for it to be drawn',
  motionEnds: 'waiting for things to stop moving',
  paintsReported: 'waiting for its images to be painted',
  stopPainting: 'keeping it from being painted',
  appears: 'waiting for what shows that it is ready',
  clickOn: 'clicking on something in it',
  scrollTo: 'scrolling it',
  slotSizes: 'taking the sizes of its images',
  widthsFromFile: 'looking which images are as wide as their files',
  shownAlike: 'looking which images stand alike in other slides',
  matching: 'looking for the elements of a selector',
  breakpoints: 'reading the widths that its style sheets name',
  markPlaces: 'noting where everything is',
  shiftsSinceMark: 'looking what has moved',
  pendingImages: 'looking which images are awaited',
  imagesArrive: 'waiting for an image',
  scrollRange: 'scrolling it',
  scrollInner: 'scrolling a part of it',
  elementBoxes: 'taking the places of its elements',
  followingFile: 'trying other sizes of its images',
  widthLimits: 'trying how wide its images can get',
  pictureWraps: 'trying a picture element around its images',
};
