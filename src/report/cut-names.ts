/** The kinds of cuts in words, in the order of the ledger. */
export const cutNames: Readonly<Record<string, string>> = {
  repair: 'repairs',
  unneeded: 'not needed',
  metadata: 'metadata',
  'fewer-pixels': 'fewer pixels',
  'better-encoding': 'lighter encoding',
  'newer-format': 'newer format',
  later: 'later',
};

/** Bytes that are saved as they go down: −12 kB; +3.0 kB where they grow. */
export const signed = (bytes: number, inWords: (bytes: number) => string): string =>
  bytes < 0 ? `+${inWords(-bytes)}` : `−${inWords(bytes)}`;
