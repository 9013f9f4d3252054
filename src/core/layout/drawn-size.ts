export interface Size {
  width: number;
  height: number;
}

/**
 * The size in CSS px at which the whole picture is drawn in its slot. CSS Images Level 3, section 5.5 `object-fit`:
 * `cover` draws it larger than the slot and cuts off the rest, `contain` smaller; lengths are those of a background.
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
    case 'fill':
      return { width: slot.width, height: slot.height };
    default:
      return sizedBy(fit, slot, file) ?? { width: slot.width, height: slot.height };
  }
}

/**
 * The size that a background's own lengths give it. CSS Backgrounds Level 3, section 3.9 `background-size`: one value leaves the height
 * free, `auto` keeps the picture's shape.
 */
function sizedBy(lengths: string, slot: Size, file: Size): Size | undefined {
  const [across = 'auto', down = 'auto'] = lengths.trim().split(/\s+/);
  const [width, height] = [lengthOf(across, slot.width), lengthOf(down, slot.height)];
  const ratio = file.width / file.height;
  if (width !== undefined && height !== undefined) return { width, height };
  if (width !== undefined && down === 'auto') return { width, height: width / ratio };
  if (height !== undefined && across === 'auto') return { width: height * ratio, height };
  return across === 'auto' && down === 'auto' ? file : undefined;
}

/** CSS px of a computed length or percentage; undefined for anything else. */
function lengthOf(text: string, whole: number): number | undefined {
  const match = /^(\d*\.?\d+)(px|%)$/.exec(text);
  if (!match) return undefined;
  return match[2] === '%' ? (Number(match[1]) / 100) * whole : Number(match[1]);
}
