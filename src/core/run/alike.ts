import { RunFormatError } from './errors.js';
import { isNested, namesOf, withValueAt, type Nested } from './json-pointers.js';
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
  for (const [at, element] of list.entries()) {
    if (!isAlike(element)) {
      whole.push(element);
      continue;
    }
    try {
      whole.push(madeWhole(element, list, whole));
    } catch (cause) {
      const why = cause instanceof Error ? cause.message : String(cause);
      throw new RunFormatError(new Error(`${name}[${at}] cannot be made whole: ${why}`, { cause }));
    }
  }
  return whole;
}

function madeWhole({ as, at, to }: Alike, list: readonly unknown[], whole: readonly unknown[]): unknown {
  if (!Object.hasOwn(whole, as)) throw new Error(`there is no element ${as} before it`);
  const naming = typeof at === 'number' ? list[at] : { at };
  const places = isNested(naming) ? naming['at'] : undefined;
  if (!Array.isArray(places) || places.length !== to.length)
    throw new Error('it does not say for each value where it stands');
  let made = whole[as];
  for (const [index, value] of to.entries())
    for (const pointer of [places[index]].flat()) made = withValueAt(made, namesOf(String(pointer)), value);
  return made;
}
