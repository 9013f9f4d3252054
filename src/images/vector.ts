import { promisify } from 'node:util';
import { brotliCompress, constants } from 'node:zlib';
import { optimize } from 'svgo';
import type { Measured, MeasureOrder } from './measure-order.js';

const compress = promisify(brotliCompress);
/** What hosts compress with on the fly. */
const hostQuality = 5;
/** Larger drawings take longer to clean than they are worth. */
const mostBytes = 5_000_000;

/** Measures what a vector picture weighs in transfer once it is cleaned. External references are never followed. */
export async function measureVector(content: Buffer, { width }: MeasureOrder): Promise<Measured> {
  const result: Measured = { content: 'graphic', alike: [], formats: {}, notes: [] };
  if (content.length > mostBytes) {
    result.notes.push('larger than 5 MB, so it was not cleaned');
    return result;
  }
  const text = content.toString('utf8');
  const embedded = [...text.matchAll(/data:image\/[a-z+]+;base64,[A-Za-z0-9+/=\s]+/g)].map(
    ([data]) => data.length,
  );
  if (embedded.length > 0) {
    const bytes = Math.round(embedded.reduce((sum, each) => sum + each, 0) / 1000);
    result.notes.push(
      `${embedded.length} embedded ${embedded.length === 1 ? 'picture' : 'pictures'} of ${bytes} kB`,
    );
  }
  const { data } = optimize(text, { multipass: true, floatPrecision: 2 });
  const bytes = await compress(Buffer.from(data), {
    params: { [constants.BROTLI_PARAM_QUALITY]: hostQuality },
  });
  result.formats['svg'] = [{ width: Math.max(1, width), bytes: bytes.length, quality: null, decibels: null }];
  return result;
}
