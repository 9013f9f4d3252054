import type { ChoiceStrategy } from './density-choice.js';
import type { Environment } from './environment.js';
import { pickImage, type ParsedImage, type Pick, type PickRule } from './image-source.js';
import { autoEntry, defaultEntry } from './sizes.js';

/** A pick with its reasons in words. */
export interface ExplainedPick {
  pick: Pick;
  /** Which element and which entry of `sizes` gave the source size. */
  because: string;
  /** Why this candidate and no other. */
  rule: string;
  /** What browsers that switch at the geometric mean take, where it is another file. */
  olderBrowsers?: string;
}

/** Explains what an image takes in an environment; undefined when it loads nothing. */
export function explainPick(
  image: ParsedImage,
  environment: Environment,
  autoWidth?: number,
): ExplainedPick | undefined {
  const choose = (strategy: ChoiceStrategy) => pickImage(image, environment, { strategy, autoWidth });
  const pick = choose('at-least');
  if (!pick) return undefined;
  const older = choose('geometric-mean');
  return {
    pick,
    because: `${elementInWords(image, pick)}${sizeInWords(image, pick)}`,
    rule: ruleInWords(pick, environment.density),
    ...(older && older.url !== pick.url ? { olderBrowsers: older.url } : {}),
  };
}

function elementInWords(image: ParsedImage, { source }: Pick): string {
  if (image.sources.length === 1) return '';
  const element = image.sources[source];
  if (element?.element === 'img') return 'no source fits, so the img counts';
  const reasons = [
    ...(element?.media.length ? ['its media matches'] : []),
    'it comes first of those that fit',
  ];
  return `source ${source + 1} counts: ${reasons.join(' and ')}`;
}

function sizeInWords(image: ParsedImage, { source, sourceSize, sizesEntry }: Pick): string {
  if (sourceSize === undefined) return '';
  const list = image.sources[source]?.sizes;
  const before = image.sources.length === 1 ? '' : '; ';
  if (sizesEntry === autoEntry) return `${before}sizes is auto, so the slot's own width counts`;
  if (sizesEntry === undefined || sizesEntry === defaultEntry)
    return `${before}no entry of sizes applies, so the full width counts (100vw)`;
  return `${before}entry ${sizesEntry + 1} of sizes applies: ${list?.entries[sizesEntry]?.text ?? ''}`;
}

const rules: Record<PickRule, (screen: number) => string> = {
  'only-candidate': () => 'it is the only candidate',
  'smallest-that-is-enough': (screen) => `it is the smallest of at least ${screen}x`,
  'largest-there-is': (screen) => `none reaches ${screen}x, and it is the largest`,
  'below-the-mean': (screen) => `${screen}x is nearer to it than to the next`,
  'source-size-zero': () => 'the source size is 0, so every density is infinite and the first counts',
};

function ruleInWords({ rule }: Pick, density: number): string {
  return rules[rule](density);
}
