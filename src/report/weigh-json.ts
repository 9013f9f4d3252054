import { asJson } from './as-json.js';
import type { WeighedEntry } from './terminal/weigh-report.js';

/** The same as the report of `yukkuri weigh`, as JSON. */
export function weighAsJson(entries: readonly WeighedEntry[]): string {
  const files = entries.map((entry) => {
    if ('why' in entry) return { name: entry.name, problem: entry.why };
    const { file, content, variants, ship, economical, notes } = entry.weighing;
    const { format, width, height, bytes, quality, colourSpace, bitDepth, alpha, frames, metadata } = file;
    return {
      name: entry.name,
      format,
      width,
      height,
      bytes,
      quality,
      colourSpace,
      bitDepth,
      alpha,
      frames,
      metadata,
      content,
      economical,
      variants: variants.map((variant) => ({
        ...variant,
        milliseconds: variant.error === 0 ? entry.took(variant.format, variant.width) : null,
      })),
      ship: ship.map(({ width: at, best, fallback }) => ({
        width: at,
        format: best.format,
        bytes: best.bytes,
        fallback: fallback ? { format: fallback.format, bytes: fallback.bytes } : null,
      })),
      notes,
    };
  });
  return asJson({ format: 'yukkuri-weigh/1', files });
}
