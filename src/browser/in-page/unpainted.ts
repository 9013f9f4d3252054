import { nativeDocument } from './native.js';

/** Inline styles of the root while nothing is to be painted; a transition would make the change last. */
const unpainted = { opacity: '0', transition: 'none' } as const;

/** What the page itself had written there. */
let own: { name: string; value: string; priority: string }[] | undefined;

const rootStyle = () => nativeDocument.documentElement.style;

function hide(): void {
  for (const [name, value] of Object.entries(unpainted)) rootStyle().setProperty(name, value, 'important');
}

/**
 * From here on the page is laid out, scrolls and loads as ever, but nothing of it is painted: painting is half of what a page costs, and
 * decodes every picture at its full size.
 */
export function stopPainting(): void {
  own ??= Object.keys(unpainted).map((name) => ({
    name,
    value: rootStyle().getPropertyValue(name),
    priority: rootStyle().getPropertyPriority(name),
  }));
  hide();
}

/** Looks at the page as it is for a visitor. */
export function asPainted<Result>(look: () => Result): Result {
  if (own === undefined) return look();
  const opacity = own.find(({ name }) => name === 'opacity');
  rootStyle().setProperty('opacity', opacity?.value ?? '', opacity?.priority);
  try {
    return look();
  } finally {
    hide();
  }
}
