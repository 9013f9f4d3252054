/** Stands for the origin of a site that is served at another port each time. */
const anyOrigin = 'http://yukkuri-site.invalid';

/** A value in which the origin of the site is one that is the same in every run. */
export const withoutPort = <Value>(value: Value, origin: string): Value => replaced(value, origin, anyOrigin);

/** The same value as the site's own origin has it. */
export const withPort = <Value>(value: Value, origin: string): Value => replaced(value, anyOrigin, origin);

function replaced<Value>(value: Value, from: string, to: string): Value {
  const inText = (text: string) => (text.includes(from) ? text.replaceAll(from, to) : text);
  const inside = (part: unknown): unknown => {
    if (typeof part === 'string') return inText(part);
    if (typeof part !== 'object' || part === null) return part;
    if (Array.isArray(part)) return part.map(inside);
    if (part instanceof Map) return new Map([...part].map(([key, each]) => [inside(key), inside(each)]));
    if (part instanceof Set) return new Set([...part].map(inside));
    return Object.fromEntries(Object.entries(part).map(([key, each]) => [inText(key), inside(each)]));
  };
  return inside(value) as Value;
}
