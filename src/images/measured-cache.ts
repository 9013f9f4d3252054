import { keyOf, type KeptValues } from '../cache/index.js';
import { encoderVersions } from './versions.js';

/** Changes whenever the way of measuring changes, so that no older result is taken for a new one. */
const method = 10;

/** What was measured of image files, kept on disk by content, recipe and encoder versions. */
export class MeasuredCache {
  /**
   * @param kept without a folder nothing is kept
   * @param versions of the encoders: others give other bytes
   */
  constructor(
    readonly kept: KeptValues,
    readonly versions = encoderVersions(),
  ) {}

  /**
   * Gives what was measured before, or measures it now and keeps it. A damaged entry, or one that does not fit, is measured anew.
   * @param fits tells whether a kept value is of the right kind
   */
  async remember<Value>(
    hash: string,
    recipe: unknown,
    fits: (value: unknown) => value is Value,
    measure: () => Promise<Value>,
  ): Promise<Value> {
    return this.kept.remember(keyOf('measured', method, this.versions, hash, recipe), fits, measure);
  }
}
