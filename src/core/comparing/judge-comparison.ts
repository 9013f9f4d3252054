import { growth } from './change.js';
import type { ComparedVisit, RunComparison } from './compare-runs.js';
import type { Noise } from './noise.js';

/** Whether anything appeared or got worse by more than noise. */
export function isWorse({ findings, pages, noise }: RunComparison): boolean {
  return (
    findings.appeared.length > 0 ||
    findings.worse.length > 0 ||
    pages.visits.some((visit) => isWorseVisit(visit, noise))
  );
}

/** A visit is listed where anything of it changed; what grew decides. */
function isWorseVisit({ firstView, whole, shift }: ComparedVisit, noise: Noise): boolean {
  return growth(firstView) >= noise.bytes || growth(whole) >= noise.bytes || growth(shift) >= noise.shift;
}
