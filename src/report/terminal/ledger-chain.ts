import { bytesInWords } from '../../core/wording/words.js';
import type { LedgerEntry } from '../../core/run/index.js';
import { cutNames, signed } from '../cut-names.js';

/** Where the bytes of one download go: "1,240 kB delivered → fewer pixels −1,010 kB → later −40 kB → 190 kB remain". */
export function ledgerChain({ delivered, cuts, expected, expectedRemains, remains }: LedgerEntry): string {
  const steps = new Map<string, number>();
  for (const { kind, bytes, expected: expectedBytes } of cuts)
    steps.set(kind, (steps.get(kind) ?? 0) + (kind === 'later' ? expectedBytes : bytes));
  const later = steps.get('later') ?? 0;
  // A download that is put off keeps its size; what it weighs in an average visit falls.
  const end =
    later === 0
      ? `${bytesInWords(remains)} remain`
      : `${bytesInWords(remains)} remain, ${bytesInWords(expectedRemains)} in an average visit (now ${bytesInWords(expected)})`;
  const middle = Object.keys(cutNames).flatMap((kind) => {
    const bytes = steps.get(kind) ?? 0;
    return bytes === 0 ? [] : [`${cutNames[kind]} ${signed(bytes, bytesInWords)}`];
  });
  return [`${bytesInWords(delivered)} delivered`, ...middle, end].join(' → ');
}
