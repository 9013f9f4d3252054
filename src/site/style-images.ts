import { parse, walk, type CssLocation } from 'css-tree';

/** A declaration of a style sheet that names an image. */
export interface StyleImage {
  property: string;
  /** As written. */
  url: string;
  line: number;
  column: number;
}

/**
 * Finds the declarations of a style sheet that name images, with their places. What does not parse is passed over, as browsers do. Lines
 * and columns begin at 1.
 */
export function findStyleImages(css: string): StyleImage[] {
  const found: StyleImage[] = [];
  const tree = parse(css, { positions: true, onParseError: () => undefined });
  walk(tree, {
    visit: 'Declaration',
    enter(declaration) {
      walk(declaration, {
        visit: 'Url',
        enter(node) {
          const place: CssLocation | null | undefined = declaration.loc ?? node.loc;
          if (!place || node.value.startsWith('data:')) return;
          const { line, column } = place.start;
          found.push({ property: declaration.property, url: node.value, line, column });
        },
      });
    },
  });
  return found;
}
