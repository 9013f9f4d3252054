import type { Box, FramePlace, ObservedPlacement } from './in-page/protocol.js';

/** Between a frame and what is in its document. Not CSS: no selector reaches through there. */
const intoFrame = ' >>> ';

/** What a frame's document shows, as a placement of the page that holds the frame. */
export function inFrame(placement: ObservedPlacement, place: FramePlace, baseUrl: string): ObservedPlacement {
  const { url, width, height } = place;
  return moved({ ...placement, frame: { url, baseUrl, width, height } }, place);
}

/** A placement in the coordinates of the document that holds the frame. */
export function moved(placement: ObservedPlacement, { selector, box, seen }: FramePlace): ObservedPlacement {
  return {
    ...placement,
    selector: `${selector}${intoFrame}${placement.selector}`,
    // Names of elements belong to the document that gives them.
    node: `${selector}/${placement.node}`,
    box: placement.box && box && shift(placement.box, box),
    seen: placement.seen && seen,
  };
}

const shift = (inner: Box, frame: Box): Box => ({ ...inner, x: inner.x + frame.x, y: inner.y + frame.y });
