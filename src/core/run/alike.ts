import { RunFormatError } from './errors.js';
import type { Run } from './types.js';

/**
 * An element of a list that is like one before it, but for some values. Places in it are JSON Pointers (RFC 6901), such as
 * `/slots/phone/y`.
 */
export interface Alike {
  /** Which element of the list it is like, counted from 0. */
  as: number;
  /** What is different, by its place. */
  but: Record<string, unknown>;
}

/** Shorter lists are written whole: they are easier to read so, and small anyway. */
export const worthShortening = 1000;
/** What is not shorter than this share of the whole is written whole. */
const worthIt = 0.7;

type Lists = Pick<Run, 'placements' | 'sweeps' | 'findings' | 'ledger'>;

/** Lists that grow with the pages of a template, and what elements that are probably alike have in common. */
const kinds: { [Name in keyof Lists]: (element: Lists[Name][number]) => string } = {
  placements: ({ template }) => template,
  sweeps: ({ write, reason }) => write ?? reason ?? '',
  findings: ({ check }) => check,
  ledger: ({ screen, cuts }) => `${screen} ${cuts.map(({ kind }) => kind).join(' ')}`,
};

const isShortened = (name: string): name is keyof Lists => Object.hasOwn(kinds, name);

/** Names of the lists of a run whose elements may be written as like others. */
export const shortenedLists: readonly string[] = Object.keys(kinds);

/** The elements of a list of a run as they are written: those that are like one before them as what is different. */
export function* shorten(name: string, list: readonly unknown[]): Generator<unknown> {
  if (!isShortened(name) || list.length < worthShortening) {
    yield* list;
    return;
  }
  const kindOf = kinds[name] as (element: unknown) => string;
  const models = new Map<string, { at: number; element: unknown }>();
  for (const [at, element] of list.entries()) {
    const kind = `${kindOf(element)} ${Object.keys(element as object).join(' ')}`;
    const model = models.get(kind);
    const short = model && differences(model.at, model.element, element);
    if (short && JSON.stringify(short).length < worthIt * JSON.stringify(element).length) yield short;
    else {
      models.set(kind, { at, element });
      yield element;
    }
  }
}

function differences(as: number, model: unknown, element: unknown): Alike {
  const found: Alike = { as, but: {} };
  compare(model, element, '', found.but);
  return found;
}

function compare(model: unknown, element: unknown, place: string, but: Record<string, unknown>): void {
  if (Object.is(model, element)) return;
  if (!isNested(model) || !isNested(element) || !sameForm(model, element)) {
    but[place] = element;
    return;
  }
  for (const [name, value] of Object.entries(element))
    compare(model[name], value, `${place}/${pointerPart(name)}`, but);
}

type Nested = Record<string, unknown>;

const isNested = (value: unknown): value is Nested => typeof value === 'object' && value !== null;

/** The same names in the same order, so that whoever reads it finds the order that was written; lists of one length have that too. */
function sameForm(one: Nested, other: Nested): boolean {
  if (Array.isArray(one) !== Array.isArray(other)) return false;
  const names = Object.keys(other);
  return Object.keys(one).length === names.length && Object.keys(one).every((name, at) => name === names[at]);
}

const pointerPart = (name: string) => name.replaceAll('~', '~0').replaceAll('/', '~1');
const partsOf = (place: string) =>
  place
    .split('/')
    .slice(1)
    .map((part) => part.replaceAll('~1', '/').replaceAll('~0', '~'));

/**
 * A saved run with all its elements whole.
 * @param saved what was read, of any form: what is no run stays as it is
 * @throws {RunFormatError} where an element is like none, or differs at a place that there is not
 */
export function wholeRun(saved: unknown): unknown {
  if (!isNested(saved)) return saved;
  const run = { ...saved };
  for (const name of shortenedLists) {
    const list = run[name];
    if (Array.isArray(list) && list.some(isAlike)) run[name] = wholeList(name, list);
  }
  return run;
}

const isAlike = (value: unknown): value is Alike =>
  isNested(value) && typeof value['as'] === 'number' && isNested(value['but']);

function wholeList(name: string, list: readonly unknown[]): unknown[] {
  const whole: unknown[] = [];
  for (const [at, element] of list.entries()) {
    if (!isAlike(element)) {
      whole.push(element);
      continue;
    }
    try {
      if (!Object.hasOwn(whole, element.as)) throw new Error(`there is no element ${element.as} before it`);
      let made = whole[element.as];
      for (const [place, value] of Object.entries(element.but)) made = changed(made, partsOf(place), value);
      whole.push(made);
    } catch (cause) {
      const why = cause instanceof Error ? cause.message : String(cause);
      throw new RunFormatError(new Error(`${name}[${at}] cannot be made whole: ${why}`, { cause }));
    }
  }
  return whole;
}

/** A copy with another value at a place, which shares everything else. */
function changed(model: unknown, [part, ...rest]: readonly string[], value: unknown): unknown {
  if (part === undefined) return value;
  if (!isNested(model) || !Object.hasOwn(model, part))
    throw new Error(`there is no "${part}" in what it is like`);
  const copy = (Array.isArray(model) ? [...(model as unknown[])] : { ...model }) as Nested;
  // A name that objects have of themselves is a name like others here.
  Object.defineProperty(copy, part, {
    value: changed(model[part], rest, value),
    enumerable: true,
    configurable: true,
    writable: true,
  });
  return copy;
}
