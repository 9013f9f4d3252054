export interface Size {
  width: number;
  height: number;
}

/**
 * The size in CSS px at which the whole picture is drawn in its slot. CSS Images Level 3, section 5.5 `object-fit`:
 * `cover` draws it larger than the slot and cuts off the rest, `contain` smaller.
 * @param file the picture's own size in any unit; only the ratio counts, except for `none` and `scale-down`
 */
export function drawnSize(slot: Size, file: Size, fit: string): Size {
  if (file.width <= 0 || file.height <= 0 || slot.width <= 0 || slot.height <= 0) {
    return { width: slot.width, height: slot.height };
  }
  const scaleX = slot.width / file.width;
  const scaleY = slot.height / file.height;
  const scaled = (scale: number): Size => ({ width: file.width * scale, height: file.height * scale });
  switch (fit) {
    case 'cover':
      return scaled(Math.max(scaleX, scaleY));
    case 'contain':
      return scaled(Math.min(scaleX, scaleY));
    case 'none':
      return scaled(1);
    case 'scale-down':
      return scaled(Math.min(1, scaleX, scaleY));
    default:
      return { width: slot.width, height: slot.height };
  }
}
