import { readImageMarkup } from '../markup/index.js';
import { writeAddress } from './addresses.js';
import type { PlannedFile } from './file-book.js';
import { isAttribute, writeAttribute } from './attribute-text.js';
import type { ImageState, Rung, ScriptAttributes, SourceState } from './image-state.js';
import { writeLinks } from './link.js';
import { asWritten, withBothClaims } from './picture-for-script.js';
import { writeStyle } from './style-rule.js';
import { editMarkup, theImage, type TagEdit } from './tag.js';

/** The address of a file from the site's root. */
export type NameOf = (file: PlannedFile) => string;

/** Provisional names, by which a text can be read before names are given. */
export const provisional: NameOf = ({ url }) => url;

/** Writes an image as the plan has it. */
export function writeState(state: ImageState, nameOf: NameOf): string {
  const write = (file: PlannedFile) => writeAddress(nameOf(file), state.like, state.base);
  switch (state.form.kind) {
    case 'attribute': {
      const { name } = state.form;
      const [source] = state.sources;
      const [rung] = source?.changed === true ? source.rungs : [];
      if (isAttribute(state.markup)) return rung ? writeAttribute(name, write(rung.file)) : state.markup;
      const file = rung ? [{ kind: 'set', name, value: write(rung.file) } as const] : [];
      const edits = [...file, ...state.edits];
      return edits.length > 0 ? editMarkup(state.markup, edits) : state.markup;
    }
    case 'list-for-script': {
      const edits = [...state.edits, ...listEdits(state.sources[0], state.form, write)];
      return edits.length > 0 ? editMarkup(state.markup, edits) : state.markup;
    }
    case 'link':
      return state.sources.length === 0 || state.sources.some(({ changed }) => changed)
        ? writeLinks(state, ({ rungs }) => srcsetOf(rungs, write), write)
        : state.markup;
    case 'style':
      return state.sources.some(({ changed }) => changed)
        ? writeStyle(state.markup, { ...state.form, base: state.base }, state.sources, write)
        : state.markup;
    case 'tag': {
      const edits = [...state.edits, ...sourceEdits(state, write)];
      const { names } = state.form;
      if (edits.length === 0) return names ? asWritten(state.markup, names) : state.markup;
      const text = editMarkup(state.markup, edits, state.wrap);
      return names ? withBothClaims(asWritten(text, names), names) : text;
    }
  }
}

function sourceEdits(state: ImageState, write: (file: PlannedFile) => string): TagEdit[] {
  const last = (readImageMarkup(state.markup)?.sources.length ?? 0) as number;
  const edits: TagEdit[] = [];
  state.sources.forEach((source, index) => {
    if (!source.changed) return;
    if (source.origin === null) {
      const before = state.sources.slice(index).find(({ origin }) => origin !== null)?.origin ?? last;
      edits.push({
        kind: 'add-source',
        before: before === last ? theImage : before,
        type: source.type,
        ...(source.dimensions ? { media: source.media, dimensions: source.dimensions } : {}),
        srcset: srcsetOf(source.rungs, write),
        sizes: source.sizes,
      });
    } else if (source.origin === last) edits.push(...imageEdits(source, write));
    else edits.push(...elementEdits(source, source.origin, write));
  });
  return edits;
}

function imageEdits(source: SourceState, write: (file: PlannedFile) => string): TagEdit[] {
  const listed = source.rungs.filter(({ inSrc }) => !inSrc);
  const inSrc = source.rungs.find((rung) => rung.inSrc);
  return [
    ...(inSrc ? [{ kind: 'set', name: 'src', value: write(inSrc.file) } as const] : []),
    listed.length > 0
      ? { kind: 'set', name: 'srcset', value: srcsetOf(listed, write) }
      : { kind: 'remove', name: 'srcset' },
    source.sizes === null
      ? { kind: 'remove', name: 'sizes' }
      : { kind: 'set', name: 'sizes', value: source.sizes },
  ];
}

/** The same in the attributes that a script reads. */
function listEdits(
  source: SourceState | undefined,
  { src, ...names }: ScriptAttributes,
  write: (file: PlannedFile) => string,
): TagEdit[] {
  if (source?.changed !== true) return [];
  // Where it reads no source, the list must be whole.
  const whole =
    src === null ? { ...source, rungs: source.rungs.map((rung) => ({ ...rung, inSrc: false })) } : source;
  // What it works out itself it is told so where it reads it; a claim counts for the browser, whether the script passes it on or not.
  const worksOut = /^auto\b/i.test(source.sizes ?? '');
  const namesOf = (name: string) => {
    if (name === 'src') return [src ?? name];
    if (name === 'srcset') return [names.srcset];
    return worksOut ? [names.sizes] : [...new Set([name, names.sizes])];
  };
  return imageEdits(whole, write).flatMap((edit): TagEdit[] =>
    'name' in edit ? namesOf(edit.name).map((name) => ({ ...edit, name })) : [edit],
  );
}

function elementEdits(source: SourceState, index: number, write: (file: PlannedFile) => string): TagEdit[] {
  return [
    { kind: 'set-on-source', index, name: 'srcset', value: srcsetOf(source.rungs, write) },
    source.sizes === null
      ? { kind: 'remove-on-source', index, name: 'sizes' }
      : { kind: 'set-on-source', index, name: 'sizes', value: source.sizes },
    ...(source.type === null
      ? []
      : [{ kind: 'set-on-source', index, name: 'type', value: source.type } as const]),
  ];
}

/** A comma at either end of an address would be read as part of the list. */
const inList = (address: string) => address.replace(/^,+|,+$/g, (commas) => '%2C'.repeat(commas.length));

export function srcsetOf(rungs: readonly Rung[], write: (file: PlannedFile) => string): string {
  return rungs
    .map(({ file, descriptor }) => {
      const address = inList(write(file));
      if ('width' in descriptor) return `${address} ${descriptor.width}w`;
      return descriptor.density === 1 ? address : `${address} ${descriptor.density}x`;
    })
    .join(', ');
}
