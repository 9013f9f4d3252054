import type { ImageAnswer, ImageFile } from '../../src/core/run/index.js';

/** What a server says of one image, and of one beside it that is as it should be. */
export interface HeaderCase {
  told: Partial<ImageAnswer>;
  neighbour: Partial<ImageAnswer>;
  /** Address of the image, where it matters. */
  url?: string;
  file?: Partial<ImageFile>;
}

/** By check: an answer that triggers it, and one that must not. */
export const headerCases: Readonly<Record<string, HeaderCase>> = {
  'short-cache-life': {
    told: { cacheControl: 'max-age=3600' },
    neighbour: { cacheControl: 'max-age=86400' },
  },
  'type-differs-from-file': { told: { type: 'image/png' }, neighbour: { type: 'image/jpeg; q=1' } },
  'vary-missing': {
    told: { negotiated: true, vary: 'Accept-Encoding' },
    neighbour: { negotiated: true, vary: 'Origin, accept' },
  },
  'vector-sent-unpacked': {
    told: { wireBytes: 9000, packed: 3000, type: 'image/svg+xml' },
    neighbour: { wireBytes: 9000, packed: 3000, coding: 'br', type: 'image/svg+xml' },
    url: '/a.svg',
    file: { format: 'svg' },
  },
  'redirected-image': { told: { redirects: ['/new.jpg'] }, neighbour: { redirects: [] } },
  'late-connection': { told: {}, neighbour: {}, url: 'https://pictures.invalid/a.jpg' },
};
