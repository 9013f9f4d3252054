/** Image types that Chromium 147 decodes and so accepts in `source type`. */
const supported = new Set([
  'image/jpeg',
  'image/pjpeg',
  'image/jpg',
  'image/png',
  'image/x-png',
  'image/apng',
  'image/gif',
  'image/webp',
  'image/avif',
  'image/svg+xml',
  'image/bmp',
  'image/x-icon',
  'image/vnd.microsoft.icon',
  'image/x-xbitmap',
]);

/** Whether a `type` attribute names an image the browser can show; parameters after `;` do not count. */
export function isSupportedImageType(type: string): boolean {
  const essence = (type.split(';')[0] ?? '').trim().toLowerCase();
  return essence === '' || supported.has(essence);
}
