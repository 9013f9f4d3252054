import type { ForbiddenByPolicy } from '../run/types.js';

/** Directives of one policy with their values, names in small letters. Content Security Policy Level 3, section 2.2.1 "Parse a serialized CSP". */
type Policy = ReadonlyMap<string, readonly string[]>;

function parsePolicy(text: string): Policy {
  const directives = new Map<string, string[]>();
  for (const part of text.split(';')) {
    const [name, ...values] = part.trim().split(/\s+/);
    const key = name?.toLowerCase() ?? '';
    // Of a directive that is written twice the first one counts.
    if (key !== '' && !directives.has(key)) directives.set(key, values);
  }
  return directives;
}

/** Policies of a header, which are parted by commas. Content Security Policy Level 3, section 3.1. */
export const policiesOfHeader = (value: string): string[] => value.split(',');

/** The values of the first of some directives that a policy has; undefined where none of them says anything. */
function valuesOf(policy: Policy, ...names: string[]): readonly string[] | undefined {
  const name = names.find((each) => policy.has(each));
  return name === undefined ? undefined : policy.get(name);
}

const isHash = (value: string) => /^'sha(256|384|512)-/i.test(value);
const isNonce = (value: string) => /^'nonce-/i.test(value);

/** Section 6.7.3.2 "Does a source list allow all inline behavior for type?": where a nonce or a hash is named, `'unsafe-inline'` says nothing. */
const allowsInline = (values: readonly string[]) =>
  values.some((value) => /^'unsafe-inline'$/i.test(value)) &&
  !values.some((value) => isHash(value) || isNonce(value));

const styles = ['style-src', 'default-src'] as const;

/**
 * What the policies of a document keep from working of what may be pasted into it: styles in attributes, pictures written into addresses,
 * and another text in style elements, which are known by their hash. All policies of a document must allow what it does.
 * @param policies as serialized, each for itself
 */
export function forbiddenBy(policies: readonly string[]): ForbiddenByPolicy[] {
  const forbidden = new Set<ForbiddenByPolicy>();
  for (const policy of policies.map(parsePolicy)) {
    const attributes = valuesOf(policy, 'style-src-attr', ...styles);
    if (attributes && !allowsInline(attributes)) forbidden.add('style-attributes');
    const elements = valuesOf(policy, 'style-src-elem', ...styles);
    if (elements && !allowsInline(elements) && !elements.some(isNonce)) forbidden.add('changed-styles');
    const images = valuesOf(policy, 'img-src', 'default-src');
    if (images && !images.some((value) => /^data:$/i.test(value))) forbidden.add('inlined-pictures');
  }
  return [...forbidden].sort();
}
