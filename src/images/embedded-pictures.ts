/** A picture that stands in a drawing as text. */
const written = /data:image\/[a-z0-9.+-]+;base64,([A-Za-z0-9+/=\s]+)/g;

/** Bytes of each picture that an SVG holds as text, decoded. */
export function embeddedPictures(drawing: string): number[] {
  return [...drawing.matchAll(written)].map(([, data = '']) => {
    const digits = data.replace(/[\s=]+/g, '').length;
    // RFC 4648, section 4: four digits stand for three bytes.
    return Math.floor((digits * 3) / 4);
  });
}
