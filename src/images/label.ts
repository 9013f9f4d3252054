/** A line of text as an SVG picture, for sheets that lay pictures side by side. Sizes in px. */
export function labelImage(text: string, width: number, height: number): Buffer {
  const safe = text.replaceAll('&', '&amp;').replaceAll('<', '&lt;');
  return Buffer.from(
    `<svg xmlns="http://www.w3.org/2000/svg" width="${width}" height="${height}"><text x="0" y="20" font-family="sans-serif" font-size="14" fill="#222">${safe}</text></svg>`,
  );
}
