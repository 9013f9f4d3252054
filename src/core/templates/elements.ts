import type { DefaultTreeAdapterTypes } from 'parse5';

export type Node = DefaultTreeAdapterTypes.Node;
export type Element = DefaultTreeAdapterTypes.Element;

/** The value of an attribute; undefined where the element does not have it. */
export const valueOf = ({ attrs }: Element, name: string): string | undefined =>
  attrs.find((each) => each.name === name)?.value;

/** Scripts that only hold data change nothing by themselves. HTML standard, 4.12.1 "The script element". */
export const isRun = (element: Element): boolean =>
  /^(|module|(text|application)\/(java|ecma)script)$/i.test((valueOf(element, 'type') ?? '').trim());
