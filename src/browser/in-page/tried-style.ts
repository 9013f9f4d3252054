import { native } from './native.js';

/** Gives an image a declaration that outdoes all others; what is returned takes that back. */
export function tryStyle(image: HTMLImageElement, property: string, value: string): () => void {
  const { style } = native(image);
  const written = image.getAttribute('style');
  style.setProperty(property, value, 'important');
  // It would make the change last.
  style.setProperty('transition', 'none', 'important');
  return () => {
    if (written === null) image.removeAttribute('style');
    else image.setAttribute('style', written);
  };
}
