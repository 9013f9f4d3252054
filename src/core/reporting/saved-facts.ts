import type { WhyFacts } from '../judging/why.js';
import { readText } from '../plan/pick-text.js';
import type { Placement, Run, Screen } from '../run/types.js';

/** What explanations are made from, read off a saved run: what a screen takes after all fixes is picked from the text that they write. */
export function savedWhyFacts(run: Readonly<Run>): WhyFacts {
  const files = new Map(run.files.map((file) => [file.url, file]));
  const made = new Map(run.fixes.flatMap((fix) => fix.files).map((file) => [file.name, file]));
  const texts = new Map<string, string>();
  for (const { kind, places } of run.fixes)
    // A text further down the list holds the edits of those above it.
    if (kind === 'edit') for (const { placement, after } of places) texts.set(placement, after);
  const insteadOf = (placement: Placement, screen: Screen, _: boolean, slot: number | undefined) => {
    const text = texts.get(placement.id);
    if (text === undefined || text === '' || (placement.kind !== 'img' && placement.kind !== 'picture'))
      return undefined;
    const pick = (markup: string) => readText(markup, { kind: 'tag' }, placement.base)(screen, slot)?.url;
    const [before, after] = [pick(placement.markup), pick(text)];
    const file = after === undefined || after === before ? undefined : (made.get(after) ?? files.get(after));
    return file && { width: file.width, bytes: file.bytes };
  };
  return {
    screens: run.screens,
    sweeps: new Map(run.sweeps.map((each) => [each.placement, each])),
    files,
    sharpness: run.conditions.sharpness ?? Number.POSITIVE_INFINITY,
    insteadOf,
  };
}
