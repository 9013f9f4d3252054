export interface TemplateLink {
  tag: string;
  classes: readonly string[];
}

/** Digits and hashes are what generators put into class names to make them unique; a template has none. */
const generated = /\d+|[_-]{1,2}[A-Za-z0-9]*\d[A-Za-z0-9]*$/g;

/** The names in a class attribute. */
export const classesIn = (attribute: string | undefined): string[] =>
  (attribute ?? '').split(/\s+/).filter(Boolean);

/** An element's name and classes without what a generator made unique in them. */
export function nameOf({ tag, classes }: TemplateLink): string {
  const names = new Set(
    classes.map((name) => name.replace(generated, '')).filter((name) => /[A-Za-z]/.test(name)),
  );
  return [tag, ...[...names].sort()].join('.');
}

/**
 * What placements rendered by the same template have in common: the chain of element names and classes from the
 * body, digits and hashes stripped, and the names of the element's attributes.
 */
export function templateOf(
  chain: readonly TemplateLink[],
  own: TemplateLink,
  attributes: readonly string[],
): string {
  const path = [...chain, own].map(nameOf).join(' > ');
  return `${path}[${[...new Set(attributes)].sort().join(',')}]`;
}
