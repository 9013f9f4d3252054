import { RunFormatError } from './errors.js';
import { isNested, namesOf, withValuesAt, type Names, type Nested } from './json-pointers.js';
import { LikeBefore, type Alike } from './like-before.js';
import type { Run } from './types.js';

/** Shorter lists are written whole: they are easier to read so, and small anyway. */
const worthShortening = 1000;

type Lists = Pick<Run, 'pages' | 'placements' | 'sweeps' | 'findings' | 'ledger'> & {
  places: Run['fixes'][number]['places'];
};

/** Lists that grow with the pages of a template, and what elements that are probably alike have in common. */
const kinds: { [Name in keyof Lists]: (element: Lists[Name][number]) => string } = {
  pages: ({ read }) => String(read),
  placements: ({ template }) => template,
  sweeps: ({ write, reason }) => write ?? reason ?? '',
  findings: ({ check }) => check,
  places: ({ edit }) => String(edit),
  ledger: ({ screen, cuts }) => `${screen} ${cuts.map(({ kind }) => kind).join(' ')}`,
};

const isShortened = (name: string): name is keyof Lists => Object.hasOwn(kinds, name);

/** Names of the lists whose elements may be written as like others: of a run, and `places` of a fix. */
export const shortenedLists: readonly string[] = Object.keys(kinds);

/** The elements of a list of a run as they are written: those that are like one before them as what is different. */
export function* shorten(name: string, list: readonly unknown[]): Generator<unknown> {
  if (name === 'fixes') {
    for (const fix of list as Run['fixes']) yield { ...fix, places: [...shorten('places', fix.places)] };
    return;
  }
  if (!isShortened(name) || list.length < worthShortening) {
    yield* list;
    return;
  }
  const kindOf = kinds[name] as (element: unknown) => string;
  const likeBefore = new LikeBefore();
  for (const element of list) yield likeBefore.write(element, kindOf(element));
}

/**
 * A saved run with all its elements whole.
 * @param saved what was read, of any form: what is no run stays as it is
 * @throws {RunFormatError} where an element is like none, or differs at a place that there is not
 */
export function wholeRun(saved: unknown): unknown {
  if (!isNested(saved)) return saved;
  const run = wholeLists(saved, '');
  const fixes = run['fixes'];
  if (Array.isArray(fixes))
    run['fixes'] = fixes.map((fix: unknown, at) => (isNested(fix) ? wholeLists(fix, `fixes[${at}].`) : fix));
  return run;
}

function wholeLists(holder: Nested, where: string): Nested {
  const whole = { ...holder };
  for (const name of shortenedLists) {
    const list = holder[name];
    if (Array.isArray(list) && list.some(isAlike)) whole[name] = wholeList(`${where}${name}`, list);
  }
  return whole;
}

const isAlike = (value: unknown): value is Alike =>
  isNested(value) && typeof value['as'] === 'number' && Array.isArray(value['to']);

function wholeList(name: string, list: readonly unknown[]): unknown[] {
  const whole: unknown[] = [];
  const places = new NamedPlaces(list);
  for (const [at, element] of list.entries()) {
    if (!isAlike(element)) {
      whole.push(element);
      continue;
    }
    try {
      whole.push(madeWhole(element, places, whole));
    } catch (cause) {
      const why = cause instanceof Error ? cause.message : String(cause);
      throw new RunFormatError(new Error(`${name}[${at}] cannot be made whole: ${why}`, { cause }));
    }
  }
  return whole;
}

/** Places that elements of a list name, each element's read once: hundreds of others refer to them. */
class NamedPlaces {
  readonly #read = new Map<number, Names[][] | undefined>();

  constructor(private readonly list: readonly unknown[]) {}

  /** For each value of an element its places; undefined where it does not say. */
  of({ at }: Alike): Names[][] | undefined {
    if (typeof at !== 'number') return namesIn(at);
    if (!this.#read.has(at)) {
      const naming = this.list[at];
      this.#read.set(at, isNested(naming) ? namesIn(naming['at']) : undefined);
    }
    return this.#read.get(at);
  }
}

const namesIn = (places: unknown): Names[][] | undefined =>
  Array.isArray(places)
    ? places.map((group: unknown) => [group].flat().map((pointer) => namesOf(String(pointer))))
    : undefined;

function madeWhole(element: Alike, named: NamedPlaces, whole: readonly unknown[]): unknown {
  const { as, to } = element;
  if (!Object.hasOwn(whole, as)) throw new Error(`there is no element ${as} before it`);
  const places = named.of(element);
  if (places?.length !== to.length) throw new Error('it does not say for each value where it stands');
  return withValuesAt(whole[as], changesOf(places, to));
}

function* changesOf(
  places: readonly Names[][],
  to: readonly unknown[],
): Generator<readonly [Names, unknown]> {
  for (const [index, group] of places.entries()) for (const names of group) yield [names, to[index]];
}
