/** What is not worth a reader's time. */
export interface TrifleLimits {
  /** A byte finding that saves less than this on every screen is a trifle. Bytes. */
  trifleBytes: number;
  /** … or less than this share of the file on every screen, 0 to 1. */
  trifleShare: number;
}

/** A saving under 4 kB is less than a round trip's worth; one under 15 % of the file is within what encoders differ by. */
export const defaultTrifles: TrifleLimits = { trifleBytes: 4000, trifleShare: 0.15 };

/** Below this a file is mostly its container, bytes: nothing that pixels or encoders do to it counts. */
export const mostlyContainer = 2000;
