/** ISO/IEC 10918-1 (ITU-T T.81), table K.1: luminance quantisation, in natural order. */
const standardLuminance = [
  16, 11, 10, 16, 24, 40, 51, 61, 12, 12, 14, 19, 26, 58, 60, 55, 14, 13, 16, 24, 40, 57, 69, 56, 14, 17, 22,
  29, 51, 87, 80, 62, 18, 22, 37, 56, 68, 109, 103, 77, 24, 35, 55, 64, 81, 104, 113, 92, 49, 64, 78, 87, 103,
  121, 120, 101, 72, 92, 95, 98, 112, 100, 103, 99,
];

const standardSum = standardLuminance.reduce((sum, value) => sum + value, 0);

/**
 * The quality on the usual scale from 1 to 100 at which the standard table becomes the given one. Files of encoders with tables of
 * their own read up to ten lower than the setting that made them.
 * @param luminance the 64 steps of a file's luminance table, in any order
 */
export function jpegQuality(luminance: readonly number[]): number {
  const scale = (100 * luminance.reduce((sum, value) => sum + value, 0)) / standardSum;
  // The usual formula turned round: 5000 / q below 50, 200 − 2q from 50 up. Steps never fall below 1, which the
  // highest qualities feel.
  const quality = scale <= 100 ? (200 - scale) / 2 : 5000 / scale;
  return Math.max(1, Math.min(100, Math.round(quality)));
}
