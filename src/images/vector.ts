import { promisify } from 'node:util';
import { brotliCompress, constants } from 'node:zlib';
import { cleanVector } from './clean-vector.js';
import { embeddedPictures } from './embedded-pictures.js';
import type { Measured, MeasureOrder } from './measure-order.js';

const compress = promisify(brotliCompress);
/** What hosts compress with on the fly. */
const hostQuality = 5;
/** Larger drawings take longer to clean than they are worth. */
const mostBytes = 5_000_000;

/** Measures what a vector picture weighs in transfer once it is cleaned. */
export async function measureVector(content: Buffer, { width }: MeasureOrder): Promise<Measured> {
  const result: Measured = { content: 'graphic', alike: [], formats: {}, notes: [] };
  if (content.length > mostBytes) {
    result.notes.push('larger than 5 MB, so it was not cleaned');
    return result;
  }
  const embedded = embeddedPictures(content.toString('utf8'));
  if (embedded.length > 0) {
    const kilobytes = Math.round(embedded.reduce((sum, each) => sum + each, 0) / 1000);
    result.notes.push(
      `${embedded.length} embedded ${embedded.length === 1 ? 'picture' : 'pictures'} of ${kilobytes} kB`,
    );
  }
  const cleaned = await cleanVector(content, width);
  if (!cleaned) {
    result.notes.push('no cleaned version that looks the same was found');
    return result;
  }
  const bytes = await compress(Buffer.from(cleaned.text), {
    params: { [constants.BROTLI_PARAM_QUALITY]: hostQuality },
  });
  result.notes.push(`coordinates to ${cleaned.decimals} decimals look the same`);
  result.formats['svg'] = [{ width: Math.max(1, width), bytes: bytes.length, quality: null, decibels: null }];
  return result;
}
