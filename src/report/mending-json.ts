import { asJson } from './as-json.js';
import type { Proof } from '../core/mending/proof.js';
import type { Run } from '../core/run/index.js';
import type { Mended } from '../core/mending/mended.js';

/** What was mended and what it proved to save, as JSON. */
export function proofAsJson(run: Readonly<Run>, mended: Mended, proof: Proof | undefined): string {
  const { fixes, left, edited, files, elsewhere } = mended;
  return asJson({
    format: 'yukkuri-mend/1',
    site: run.site,
    fixes: fixes.map(({ id, title, saves }) => ({ id, title, saves })),
    left,
    edited,
    files,
    elsewhere,
    proof: proof ?? null,
  });
}
