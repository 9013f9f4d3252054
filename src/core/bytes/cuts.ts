/** The order in which savings are taken from a download. Each takes from what the ones before left. */
export const cutOrder = [
  /** What is mended beside the bytes and changes them all the same, mostly upwards. */
  'repair',
  'unneeded',
  'metadata',
  'fewer-pixels',
  'better-encoding',
  'newer-format',
  'later',
] as const;
export type CutKind = (typeof cutOrder)[number];
