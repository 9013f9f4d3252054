import type { ForbiddenByPolicy, PageRecord, Placement } from '../run/types.js';
import { nothingToPaste, type Remedy } from './check.js';

/** What pages are protected by against other texts than their own. */
export class PageProtections {
  readonly #pages: ReadonlyMap<string, PageRecord>;
  readonly #sealed: ReadonlySet<string>;

  constructor(pages: readonly PageRecord[]) {
    this.#pages = new Map(pages.flatMap((page) => (page.forbids ? [[page.path, page] as const] : [])));
    this.#sealed = new Set(pages.flatMap(({ sealedSheets = [] }) => sealedSheets));
  }

  forbids({ page }: Pick<Placement, 'page'>, what: ForbiddenByPolicy): boolean {
    return this.#pages.get(page)?.forbids?.includes(what) === true;
  }

  /** The style sheet that a placement's text stands in, if a page states its hash. */
  sealedSheetOf({ source }: Pick<Placement, 'source'>): string | undefined {
    return source && this.#sealed.has(source.file) ? source.file : undefined;
  }

  /** A remedy as the policies of the page leave it: what they would keep from working is to be done by hand. */
  heed(placement: Placement, remedy: Remedy): Remedy {
    if (remedy.changes.length === 0 || !this.#pages.has(placement.page)) return remedy;
    if (this.forbids(placement, 'changed-styles') && this.#isInStyleElement(placement))
      return { ...remedy, ...nothingToPaste(hashKnown, ...remedy.notes) };
    const edits = remedy.changes.flatMap((change) => (change.kind === 'edit' ? change.edits : []));
    const declarations = edits.flatMap((edit) => (edit.kind === 'add-style' ? [edit.declaration] : []));
    if (declarations.length === 0 || !this.forbids(placement, 'style-attributes')) return remedy;
    const suggests = edits.filter((edit) => edit.kind !== 'add-style');
    const others = remedy.changes.some((change) => change.kind !== 'edit');
    return {
      ...remedy,
      ...nothingToPaste(inSheet(declarations), ...remedy.notes),
      ...(suggests.length > 0 && !others ? { suggests } : {}),
    };
  }

  #isInStyleElement({ kind, page, source, markup }: Placement): boolean {
    // Of a style attribute the text is its declarations alone.
    return kind === 'css-image' && source?.file === this.#pages.get(page)?.file && markup.includes('{');
  }
}

const hashKnown =
  'The page’s Content-Security-Policy knows its style element by a hash: another text is not applied until its own hash stands there.';

const inSheet = (declarations: readonly string[]) =>
  `The page’s Content-Security-Policy applies no style of an attribute: write "${declarations.join('; ')}" for this image into a style sheet.`;

/** What has to be done beside an edit in a style sheet whose hash pages state. */
export const renewHash = (file: string) =>
  `${file} is linked with its hash (integrity): the links have to state that of the new text, or no browser applies it. "mend" writes it there.`;
