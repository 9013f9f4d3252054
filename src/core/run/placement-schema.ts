import { boolean, number, object, string } from 'yup';
import { bytes, closed, keyed, list, position, slotOrNull, text } from './schema-parts.js';

/** When a download began. */
export const began = () => string().oneOf(['first-view', 'scrolled', 'by-itself']).required();

const looks = ['blank', 'colour', 'gradient', 'inlined-picture', 'other'];

const side = () => string().oneOf(['style', 'attribute', 'auto', 'nothing']).required();

/** An element with an image, and what each screen showed of it. */
export const placementSchema = closed({
  id: text(),
  page: text(),
  kind: text(),
  selector: text(),
  source: position,
  template: text(),
  markup: text(),
  base: text(),
  style: object({ property: text(), layer: bytes() }).default(undefined),
  attribute: string(),
  alt: string().nullable().defined(),
  frames: object().default(undefined),
  viewports: object().default(undefined),
  windows: object().default(undefined),
  slots: keyed(slotOrNull()),
  picks: keyed(closed({ predicted: string().nullable().defined(), observed: string().nullable().defined() })),
  downloads: keyed(
    closed({ url: text(), bytes: bytes(), began: began(), scrollDepth: number().min(0).required() }),
  ),
  shown: keyed(
    closed({
      state: string().oneOf(['drawn', 'broken', 'not-loaded', 'no-source']).required(),
      whileWaiting: slotOrNull(),
      beforeScroll: slotOrNull(),
      fit: text(),
      widthFrom: side(),
      heightFrom: side(),
      limitWidth: number().min(0).nullable().defined(),
      limitHeight: number().min(0),
      pixelated: boolean().oneOf([true]).default(undefined),
      followsFile: boolean().oneOf([true]).default(undefined),
      addressed: boolean().oneOf([true]).default(undefined),
      widthElsewhere: number().min(0),
      shownByOther: boolean().oneOf([true]).default(undefined),
      drawnWidth: number().min(0).required(),
      drawnHeight: number().min(0).required(),
      fileWidth: number().min(0).required(),
      fileHeight: number().min(0).required(),
      seen: boolean().required(),
      concealed: boolean().required(),
      seenLater: boolean().required(),
      pictureWrap: string().oneOf(['spaced', 'close', 'boxless', 'none']).nullable().defined(),
      behind: string().oneOf(['nothing', 'colour', 'gradient', 'picture', 'inlined-picture']).required(),
      waiting: string().oneOf(looks).nullable().defined(),
      largestPaint: boolean().required(),
      lazy: boolean().required(),
    }),
  ),
  candidates: list(text()),
});
