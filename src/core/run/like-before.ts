import { differingPointers, isNested, namesOf, valueAt } from './json-pointers.js';

/**
 * An element of a list that is like one before it, but for some values. `{"as": 3, "at": ["/id", ["/a/y", "/b/y"]], "to": ["x", 9]}` is
 * the element 3 with "x" in the one place and 9 in the two others; places are JSON Pointers (RFC 6901).
 */
export interface Alike {
  /** Which element of the list it is like, counted from 0. */
  as: number;
  /** Where it is different, or the number of an element before it that says where: places that get one value stand together. */
  at: number | (string | string[])[];
  /** What stands there, in turn. */
  to: unknown[];
}

/** What is not shorter than this share of the whole is written whole. */
const worthIt = 0.7;
/** So often places are named before any are used again. */
const leastNamings = 4;
/** Of so many ways to name places those used last are tried. */
const triedPlaces = 8;

/** Places that an element of the list names. */
interface NamedPlaces {
  /** The element that names them. */
  at: number;
  groups: Group[];
  pointers: ReadonlySet<string>;
}

/** Places that have one value. */
interface Group {
  first: Place;
  others: Place[];
}

interface Place {
  pointer: string;
  names: readonly string[];
}

interface Model {
  at: number;
  element: unknown;
  /** Those used last stand first. */
  named: NamedPlaces[];
  /** How often places that an element before it had named were enough, less how often places were named. */
  spared: number;
}

/** Writes the elements of one list, those that are like one before them as what is different. */
export class LikeBefore {
  readonly #models = new Map<string, Model>();
  #written = 0;

  /**
   * The next element as it is written.
   * @param kind what elements that are probably alike have in common
   */
  write(element: unknown, kind: string): unknown {
    const own: Model = { at: this.#written++, element, named: [], spared: 0 };
    const exactly = `${kind} ${formOf(element)}`;
    const model = this.#models.get(exactly) ?? this.#models.get(kind);
    const short = model && shortened(model, element, own.at);
    if (!short || !this.#models.has(exactly)) this.#models.set(exactly, own);
    if (!model) this.#models.set(kind, own);
    return short ?? element;
  }
}

/** Names and lengths, but no values. */
function formOf(value: unknown): string {
  if (!isNested(value)) return '';
  const inner = Object.entries(value).map(
    ([name, each]) => `${Array.isArray(value) ? '' : name}${formOf(each)}`,
  );
  return `(${inner.join()})`;
}

/** The element as what is different from the model; undefined where that is not worth it. */
function shortened(model: Model, element: unknown, at: number): Alike | undefined {
  const different = differingPointers(model.element, element);
  const known = model.named
    .flatMap((named) => {
      const to = valuesIn(element, named, different);
      return to ? [{ named, to }] : [];
    })
    .sort((one, other) => one.to.length - other.to.length)[0];
  // Names of places are as long as the element itself and longer: they pay only where others use them after it.
  if (!known && model.spared < -leastNamings) return undefined;
  const { named, to } = known ?? namePlaces(model, element, different, at);
  if (JSON.stringify(to).length >= worthIt * JSON.stringify(element).length) return undefined;
  model.spared += known ? 1 : -1;
  model.named = [named, ...model.named.filter((each) => each !== named)].slice(0, triedPlaces);
  return { as: model.at, at: known ? named.at : named.groups.map(asWritten), to };
}

const asWritten = ({ first, others }: Group) =>
  others.length > 0 ? [first, ...others].map(({ pointer }) => pointer) : first.pointer;

/** What stands at these places; undefined where they are not all that differ, or have not one value for each group. */
function valuesIn(element: unknown, named: NamedPlaces, different: readonly string[]): unknown[] | undefined {
  if (!different.every((pointer) => named.pointers.has(pointer))) return undefined;
  const values: unknown[] = [];
  for (const { first, others } of named.groups) {
    const value = valueAt(element, first.names);
    if (value === undefined || !others.every(({ names }) => isSame(value, valueAt(element, names))))
      return undefined;
    values.push(value);
  }
  return values;
}

const isSame = (one: unknown, other: unknown) =>
  Object.is(one, other) || (isNested(one) && JSON.stringify(one) === JSON.stringify(other));

/**
 * Names all places at which elements like this one were seen to differ, so that those to come need not name them again. Places stand
 * together only if they had one value in each element that named them, and in the model: what is equal by chance parts again.
 */
function namePlaces(
  model: Model,
  element: unknown,
  different: readonly string[],
  at: number,
): { named: NamedPlaces; to: unknown[] } {
  const groupBefore = new Map(
    model.named[0]?.groups.flatMap(({ first, others }, index) =>
      [first, ...others].map(({ pointer }) => [pointer, index] as const),
    ),
  );
  const groups = new Map<string, Group & { value: unknown }>();
  const pointers = new Set([...different, ...groupBefore.keys()]);
  for (const pointer of pointers) {
    const place = { pointer, names: namesOf(pointer) };
    const value = valueAt(element, place.names);
    if (value === undefined) {
      pointers.delete(pointer);
      continue;
    }
    const together = groupBefore.get(pointer) ?? JSON.stringify(valueAt(model.element, place.names));
    const key = `${together} ${JSON.stringify(value)}`;
    const group = groups.get(key);
    if (group) group.others.push(place);
    else groups.set(key, { first: place, others: [], value });
  }
  const named = [...groups.values()];
  return { named: { at, groups: named, pointers }, to: named.map(({ value }) => value) };
}
