/**
 * A form, or the document, with its properties as the browser defines them: a form control or an image with a name such as `children`,
 * `style` or `body` hides the property of that name. HTML standard, 4.10.3 "The form element" and 3.1.6 "DOM tree accessors", both
 * `LegacyOverrideBuiltIns`. Other elements are given back as they are.
 */
export function native<Holder extends Element | Document | ShadowRoot>(holder: Holder): Holder {
  if (!(holder instanceof HTMLFormElement || holder instanceof Document)) return holder;
  const made = known.get(holder) ?? new Proxy(holder, unhidden);
  known.set(holder, made);
  return made as Holder;
}

const unhidden: ProxyHandler<Element | Document> = {
  get(holder, name) {
    for (let prototype: unknown = Object.getPrototypeOf(holder); prototype !== null;) {
      const found = Object.getOwnPropertyDescriptor(prototype, name);
      if (found?.get) return Reflect.apply(found.get, holder, []) as unknown;
      if (typeof found?.value === 'function') return (found.value as () => unknown).bind(holder);
      if (found) return found.value as unknown;
      prototype = Object.getPrototypeOf(prototype);
    }
    return undefined;
  },
  set(holder, name, value) {
    return Reflect.set(Object.getPrototypeOf(holder) as object, name, value, holder);
  },
};

const known = new WeakMap<Element | Document, Element | Document>();

/** The document with its properties as the browser defines them. */
export const nativeDocument = native(document);
