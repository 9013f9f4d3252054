import { encode } from './encode.js';

/** An encoder that notes how long its last encode in a format and width took, ms. */
export function watchEncodes(): {
  encode: typeof encode;
  took(format: string, width: number): number | null;
} {
  const times = new Map<string, number>();
  return {
    encode: async (pixels, recipe) => {
      const began = performance.now();
      const encoded = await encode(pixels, recipe);
      times.set(`${recipe.format} ${pixels.width}`, Math.round(performance.now() - began));
      return encoded;
    },
    took: (format, width) => times.get(`${format} ${width}`) ?? null,
  };
}
