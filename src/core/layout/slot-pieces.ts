/** Slot width at one viewport width; both CSS px. */
export interface SlotSample {
  viewport: number;
  slot: number;
}

/** A stretch of viewport widths on which the slot grows linearly. */
export interface SlotPiece {
  /** First and last viewport width of the stretch that was measured, CSS px. */
  from: number;
  to: number;
  samples: SlotSample[];
}

/** Layout counts in 64ths of a px, and a percentage of a percentage rounds more than once. */
const rounding = 0.13;

/**
 * Cuts samples (ascending in width) into linear pieces. A piece goes on while some straight line passes all its samples within
 * layout's rounding: the range of possible slopes is narrowed with each sample, and a new piece begins where it is empty.
 */
export function cutIntoPieces(samples: readonly SlotSample[], tolerance = rounding): SlotPiece[] {
  const pieces: SlotPiece[] = [];
  let current: SlotPiece | undefined;
  let lowSlope = Number.NEGATIVE_INFINITY;
  let highSlope = Number.POSITIVE_INFINITY;
  for (const sample of samples) {
    const start = current?.samples[0];
    if (current && start) {
      const run = sample.viewport - start.viewport;
      const low = (sample.slot - start.slot - 2 * tolerance) / run;
      const high = (sample.slot - start.slot + 2 * tolerance) / run;
      lowSlope = Math.max(lowSlope, low);
      highSlope = Math.min(highSlope, high);
      if (lowSlope <= highSlope) {
        current.samples.push(sample);
        current.to = sample.viewport;
        continue;
      }
    }
    current = { from: sample.viewport, to: sample.viewport, samples: [sample] };
    pieces.push(current);
    lowSlope = Number.NEGATIVE_INFINITY;
    highSlope = Number.POSITIVE_INFINITY;
  }
  return pieces;
}

/** Slot width at a viewport width between samples: straight between the two neighbours. */
export function slotAt(samples: readonly SlotSample[], viewport: number): number {
  let before = samples[0];
  for (const sample of samples) {
    if (sample.viewport === viewport) return sample.slot;
    if (sample.viewport > viewport) {
      if (!before || before.viewport > viewport) return sample.slot;
      const part = (viewport - before.viewport) / (sample.viewport - before.viewport);
      return before.slot + part * (sample.slot - before.slot);
    }
    before = sample;
  }
  return before?.slot ?? 0;
}
