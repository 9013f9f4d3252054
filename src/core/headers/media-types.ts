/** Media types by the formats that files are read as. IANA media types registry. */
export const imageTypes: Readonly<Record<string, readonly string[]>> = {
  jpeg: ['image/jpeg', 'image/jpg', 'image/pjpeg'],
  png: ['image/png', 'image/apng', 'image/x-png'],
  gif: ['image/gif'],
  webp: ['image/webp'],
  avif: ['image/avif'],
  svg: ['image/svg+xml'],
  bmp: ['image/bmp', 'image/x-ms-bmp', 'image/x-bmp'],
  ico: ['image/x-icon', 'image/vnd.microsoft.icon'],
};

/** Without parameters, in small letters. */
export const mediaType = (type: string) => type.replace(/;.*$/s, '').trim().toLowerCase();

/** Whether a content type is one of a format. */
export const isTypeOf = (type: string, format: string): boolean =>
  imageTypes[format]?.includes(mediaType(type)) ?? false;
