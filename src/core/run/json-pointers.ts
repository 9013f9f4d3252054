/** What JSON calls an object or an array. */
export type Nested = Record<string, unknown>;

export const isNested = (value: unknown): value is Nested => typeof value === 'object' && value !== null;

/** A JSON Pointer (RFC 6901, section 3) as the names that it goes by. */
export type Names = readonly string[];

export const namesOf = (pointer: string): Names =>
  pointer
    .split('/')
    .slice(1)
    .map((name) => name.replaceAll('~1', '/').replaceAll('~0', '~'));

const pointerPart = (name: string) => name.replaceAll('~', '~0').replaceAll('/', '~1');

/**
 * Where a value differs from a model, as JSON Pointers in the order of the value: the deepest places up to which both have the same names in the
 * same order.
 */
export function differingPointers(model: unknown, value: unknown, at = '', found: string[] = []): string[] {
  if (Object.is(model, value)) return found;
  if (!isNested(model) || !isNested(value) || !sameNames(model, value)) {
    found.push(at);
    return found;
  }
  for (const [name, inner] of Object.entries(value))
    differingPointers(model[name], inner, `${at}/${pointerPart(name)}`, found);
  return found;
}

/** The same names in the same order, so that whoever reads it finds the order that was written; lists of one length have that too. */
function sameNames(one: Nested, other: Nested): boolean {
  if (Array.isArray(one) !== Array.isArray(other)) return false;
  const names = Object.keys(other);
  return Object.keys(one).length === names.length && Object.keys(one).every((name, at) => name === names[at]);
}

/** What stands at a place; undefined, which JSON does not have, where there is no such place. */
export function valueAt(value: unknown, names: Names): unknown {
  let found = value;
  for (const name of names) {
    if (!isNested(found) || !Object.hasOwn(found, name)) return undefined;
    found = found[name];
  }
  return found;
}

/**
 * A copy with other values at some places, which shares everything else.
 * @throws {Error} where the model has no such place
 */
export function withValuesAt(model: unknown, changes: Iterable<readonly [Names, unknown]>): unknown {
  const copies = new Set<Nested>();
  let changed = model;
  for (const [names, value] of changes) changed = withValueAt(changed, names, 0, value, copies);
  return changed;
}

function withValueAt(
  model: unknown,
  names: Names,
  depth: number,
  value: unknown,
  copies: Set<Nested>,
): unknown {
  const name = names[depth];
  if (name === undefined) return value;
  if (!isNested(model) || !Object.hasOwn(model, name))
    throw new Error(`there is no "${name}" in what it is like`);
  const copy = copies.has(model) ? model : copyOf(model);
  copies.add(copy);
  copy[name] = withValueAt(model[name], names, depth + 1, value, copies);
  return copy;
}

/** With its own fields, and so with one that is called like what all objects inherit: it can be set as any other. */
const copyOf = (model: Nested): Nested =>
  (Array.isArray(model) ? [...(model as unknown[])] : { ...model }) as Nested;

/** Sets it also where objects have something of that name of themselves. */
export function setOwn(target: Nested, name: string, value: unknown): void {
  Object.defineProperty(target, name, { value, enumerable: true, configurable: true, writable: true });
}
