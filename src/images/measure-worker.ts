import sharp from 'sharp';
import type { Measured, MeasureOrder } from './measure-order.js';
import { measurePicture } from './measure.js';

// Each worker is one of a few: more threads inside one encode would only get in each other's way.
sharp.concurrency(1);
// Every picture is decoded once, so operations kept for later would only take memory.
sharp.cache(false);

export interface MeasureTask {
  content: Uint8Array;
  order: MeasureOrder;
}

export default function measure({ content, order }: MeasureTask): Promise<Measured> {
  return measurePicture(Buffer.from(content.buffer, content.byteOffset, content.byteLength), order);
}
