import { parseFragment, type DefaultTreeAdapterTypes } from 'parse5';
import { readImageMarkup, type ImageMarkup } from '../markup/index.js';
import type { SourceAttributes } from '../markup/image-source.js';
import type { ScriptAttributes } from './image-state.js';
import { listForScript } from './script-image.js';
import { isElement } from './tag.js';

/** Where a name is taken already by what stands there until the script comes. */
const until = 'data-until-then-';

/**
 * The attributes from which a script takes the lists of a `picture`: those of its sources, and the address of its image.
 * @returns undefined where there are none, and where it cannot be told which of several claims counts
 */
export function listsForScript(markup: string): ScriptAttributes | undefined {
  const parts = partsOf(markup).map(({ attrs }) => new Map(attrs.map(({ name, value }) => [name, value])));
  const [list] = parts.flatMap((attributes) => listForScript(attributes) ?? []);
  if (!list) return undefined;
  const named = (name: string) => list.srcset.replace(/srcset$/, name);
  const claims = parts.filter((attributes) => attributes.has(named('sizes')));
  const isWorkedOut = (attributes: ReadonlyMap<string, string>) =>
    isAuto(attributes.get(named('sizes')) ?? '');
  const worksOut = claims.some(isWorkedOut);
  const differ = (attributes: ReadonlyMap<string, string>) =>
    attributes.has('sizes') && attributes.get('sizes') !== attributes.get(named('sizes'));
  if (claims.some((attributes) => differ(attributes) || isWorkedOut(attributes) !== worksOut))
    return undefined;
  return {
    src: named('src'),
    srcset: list.srcset,
    sizes: claims.length > 0 ? named('sizes') : 'sizes',
    ...(worksOut ? { worksOut } : {}),
  };
}

const isAuto = (sizes: string) => /^\s*auto\b/i.test(sizes);

/** A text as the script completes it, read. The widths that it works out itself are those of a lazy image. */
export function readCompleted(completed: string, { worksOut }: ScriptAttributes): ImageMarkup | undefined {
  const read = readImageMarkup(completed);
  if (!read || !worksOut) return read;
  const withWidth = <Part extends SourceAttributes>(part: Part): Part =>
    typeof part.srcset === 'string' ? { ...part, sizes: 'auto' } : part;
  return {
    sources: read.sources.map(withWidth),
    img: { ...withWidth(read.img), loading: 'lazy' },
  };
}

/** The sources and images of a text. */
function partsOf(markup: string): DefaultTreeAdapterTypes.Element[] {
  return parseFragment(markup, { sourceCodeLocationInfo: true })
    .childNodes.filter(isElement)
    .flatMap((element) => [element, ...element.childNodes.filter(isElement)])
    .filter(({ tagName }) => tagName === 'source' || tagName === 'img');
}

/** Pairs of names: in the file, and as the script completes them. */
const pairsOf = ({ src, srcset, sizes }: ScriptAttributes): [written: string, completed: string][] =>
  (
    [
      [src ?? 'src', 'src'],
      [srcset, 'srcset'],
      [sizes, 'sizes'],
    ] as [string, string][]
  ).filter(([written, completed]) => written !== completed);

/** The text as the script completes it. */
export function asCompleted(markup: string, names: ScriptAttributes): string {
  const pairs = pairsOf(names);
  return renamed(markup, (name, has) => {
    const [, completed] = pairs.find(([written]) => written === name) ?? [];
    if (completed !== undefined) return completed;
    const isTaken = pairs.some(([written, other]) => other === name && has(written));
    return isTaken ? until + name : name;
  });
}

/** The same back: what stands in a completed text as it is written for the script. */
export function asWritten(completed: string, names: ScriptAttributes): string {
  const pairs = pairsOf(names);
  return renamed(completed, (name) =>
    name.startsWith(until)
      ? name.slice(until.length)
      : (pairs.find(([, other]) => other === name)?.[0] ?? name),
  );
}

/**
 * A written text in which each claim of widths counts whether the script passes it on or not: it stands in both attributes. That the script is to
 * work it out only the script can read.
 */
export const withBothClaims = (written: string, { sizes, worksOut }: ScriptAttributes): string =>
  worksOut || sizes === 'sizes' ? written : copied(written, sizes, 'sizes');

/** A text in which the attributes of sources and images have other names. */
function renamed(markup: string, nameOf: (name: string, has: (name: string) => boolean) => string): string {
  return edited(markup, ({ name }, text, has) => nameOf(name, has) + text.slice(name.length));
}

/** A text in which an attribute stands under a second name too, before itself; one that has that name already gives way. */
function copied(markup: string, name: string, second: string): string {
  return edited(markup, (attribute, text, has, before) => {
    if (attribute.name === second && has(name)) return '';
    return attribute.name === name ? second + text.slice(name.length) + before + text : text;
  });
}

type EditAttribute = (
  attribute: { name: string },
  text: string,
  has: (name: string) => boolean,
  /** The white space in front of it. */
  before: string,
) => string;

/** A text in which each attribute of its sources and images is written as it is told. */
function edited(markup: string, edit: EditAttribute): string {
  return partsOf(markup)
    .flatMap(({ attrs, sourceCodeLocation }) => {
      const has = (name: string) => attrs.some((each) => each.name === name);
      return attrs.flatMap((attribute) => {
        const place = sourceCodeLocation?.attrs?.[attribute.name];
        if (!place) return [];
        const { startOffset: from, endOffset: to } = place;
        const before = /\s*$/.exec(markup.slice(0, from))?.[0] ?? '';
        const text = edit(attribute, markup.slice(from, to), has, before);
        return text === '' ? [{ from: from - before.length, to, text }] : [{ from, to, text }];
      });
    })
    .sort((a, b) => b.from - a.from)
    .reduce((all, { from, to, text }) => all.slice(0, from) + text + all.slice(to), markup);
}
