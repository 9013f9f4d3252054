import type { Screen } from '../run/types.js';

/** What media queries and lengths are evaluated against. */
export interface Environment {
  /** Layout viewport, CSS px. */
  width: number;
  height: number;
  /** Device px per CSS px. */
  density: number;
  touch: boolean;
  /** Initial font size, CSS px: what `em` and `rem` mean in media conditions and `sizes`. */
  fontSize: number;
  colorScheme: 'light' | 'dark';
}

/** The environment of a page that lays itself out at the screen's own width, with ordinary settings. */
export function environmentOf(screen: Pick<Screen, 'width' | 'height' | 'density' | 'touch'>): Environment {
  const { width, height, density, touch } = screen;
  return { width, height, density, touch, fontSize: 16, colorScheme: 'light' };
}
