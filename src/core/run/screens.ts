import { ValidationError } from 'yup';
import { screenSchema } from './schema.js';
import type { Screen } from './types.js';

/**
 * The screens an audit uses unless told otherwise: one of each everyday size and pixel density. The shares
 * are a round guess for a public site with mostly mobile visitors; sites with statistics should set their own.
 */
export const defaultScreens: readonly Screen[] = [
  { name: 'phone', width: 390, height: 844, density: 3, touch: true, share: 0.55 },
  { name: 'tablet', width: 820, height: 1180, density: 2, touch: true, share: 0.1 },
  { name: 'laptop', width: 1440, height: 900, density: 2, touch: false, share: 0.2 },
  { name: 'desktop', width: 1920, height: 1080, density: 1, touch: false, share: 0.15 },
];

/** A description of a screen that cannot be understood or makes no sense. */
export class ScreenError extends Error {
  readonly code = 'SCREEN';

  constructor(description: string, why: string) {
    super(
      `The screen "${description}" makes no sense: ${why}. ` +
        'Write NAME=WIDTHxHEIGHT@DENSITY, then ",touch" and ",share=0.3" if wanted: phone=390x844@3,touch,share=0.6',
    );
    this.name = 'ScreenError';
  }
}

const shape = /^([\p{L}\p{N}_-]+)=(\d+(?:\.\d+)?)x(\d+(?:\.\d+)?)(?:@(\d+(?:\.\d+)?))?((?:,[^,]+)*)$/u;

/**
 * Reads `NAME=WIDTHxHEIGHT@DENSITY[,touch][,share=S]` (CSS px; density 1 if left out). A screen without a
 * share gets NaN, which `shareOut` fills.
 * @throws {ScreenError} when the text has another form or a value is out of range
 */
export function parseScreen(description: string): Screen {
  const match = shape.exec(description.trim());
  if (!match) throw new ScreenError(description, 'it has another form');
  const [, name = '', width, height, density = '1', rest = ''] = match;
  const screen: Screen = {
    name,
    width: Number(width),
    height: Number(height),
    density: Number(density),
    touch: false,
    share: Number.NaN,
  };
  for (const word of rest.split(',').filter(Boolean)) {
    if (word === 'touch') screen.touch = true;
    else if (/^share=\d*\.?\d+$/.test(word)) screen.share = Number(word.slice('share='.length));
    else throw new ScreenError(description, `"${word}" is neither "touch" nor "share=" with a number`);
  }
  try {
    screenSchema.validateSync({ ...screen, share: Number.isNaN(screen.share) ? 0 : screen.share });
  } catch (cause) {
    throw new ScreenError(description, cause instanceof ValidationError ? cause.message : String(cause));
  }
  return screen;
}

/**
 * Makes the shares sum to 1: screens without one take equal parts of what the others leave, then all are
 * scaled.
 * @throws {ScreenError} when two screens have the same name or no visits are left
 */
export function shareOut(screens: readonly Screen[]): Screen[] {
  const names = new Set<string>();
  for (const { name } of screens) {
    if (names.has(name)) throw new ScreenError(name, 'another screen has the same name');
    names.add(name);
  }
  const given = screens.filter(({ share }) => !Number.isNaN(share));
  const taken = given.reduce((sum, { share }) => sum + share, 0);
  const open = screens.length - given.length;
  const left = open > 0 ? Math.max(0, 1 - taken) / open : 0;
  const filled = screens.map((screen) => ({
    ...screen,
    share: Number.isNaN(screen.share) ? left : screen.share,
  }));
  const total = filled.reduce((sum, { share }) => sum + share, 0);
  if (!(total > 0)) throw new ScreenError([...names].join(' '), 'no screen has a share of the visits');
  return filled.map((screen) => ({ ...screen, share: screen.share / total }));
}
