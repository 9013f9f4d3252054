import { asJson } from './as-json.js';
import type { SizesEntry } from './terminal/sizes-report.js';

/** The same as the report of `yukkuri sizes`, as JSON. */
export function sizesAsJson(
  entries: readonly SizesEntry[],
  problems: readonly { page: string; why: string }[],
): string {
  const images = entries.map(({ placement, places, sweep, off }) => ({
    template: placement.template,
    selector: placement.selector,
    places: places.map(({ page, source, selector }) => ({ page, source, selector })),
    slots: sweep.pieces,
    off,
    write: sweep.write,
    reason: sweep.reason,
    constant: sweep.constant,
    holds: sweep.holds,
    worst: sweep.worst,
  }));
  return asJson({ format: 'yukkuri-sizes/1', images, problems });
}
