import type { ComparedVisit, RunComparison } from './compare-runs.js';
import { growth } from './compare-runs.js';

/** Whether anything appeared or got worse by more than noise. */
export function isWorse({ findings, pages }: RunComparison): boolean {
  return (
    findings.appeared.length > 0 ||
    findings.worse.length > 0 ||
    pages.visits.some((visit) => isWorseVisit(visit))
  );
}

/** More bytes, or more shift; either is only listed where it is more than noise, but the other may be less. */
export function isWorseVisit(
  { firstView, whole, shift }: ComparedVisit,
  noiseBytes = 4000,
  noiseShift = 0.01,
): boolean {
  return growth(firstView) >= noiseBytes || growth(whole) >= noiseBytes || growth(shift) >= noiseShift;
}
