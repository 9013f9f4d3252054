/** A point of a curve or a colour may be so far off: tables and fractions of 16 bits round. */
const tolerance = 0.01;

/** IEC 61966-2-1, adapted to D50 as ICC.1 section 6.3 asks for; red, green and blue, each X, Y and Z. */
const colours: Record<string, readonly number[]> = {
  rXYZ: [0.436, 0.2225, 0.0139],
  gXYZ: [0.3851, 0.7169, 0.0971],
  bXYZ: [0.1431, 0.0606, 0.7141],
};

/** IEC 61966-2-1, section 5.2. */
const sRgbCurve = (value: number) => (value <= 0.04045 ? value / 12.92 : ((value + 0.055) / 1.055) ** 2.4);

/**
 * Whether a colour profile says no more than sRGB, which is what browsers take for a picture without one. ICC.1:2022, section 7.3: the
 * table of tags; a profile that cannot be read says more.
 */
export function isSRgbProfile(profile: Buffer): boolean {
  try {
    const space = profile.toString('latin1', 16, 20);
    const tags = tagsOf(profile);
    const curveNames = space === 'GRAY' ? ['kTRC'] : ['rTRC', 'gTRC', 'bTRC'];
    // Tables of colours would count before curves and primaries.
    if ((space !== 'RGB ' && space !== 'GRAY') || tags.has('A2B0')) return false;
    const rightColours =
      space === 'GRAY' ||
      Object.entries(colours).every(([name, expected]) => {
        const at = tags.get(name);
        return (
          at !== undefined && expected.every((value, axis) => near(fixed(profile, at + 8 + 4 * axis), value))
        );
      });
    return (
      rightColours &&
      curveNames.every((name) => {
        const at = tags.get(name);
        const curve = at === undefined ? undefined : readCurve(profile, at);
        return (
          curve !== undefined && [0.1, 0.25, 0.5, 0.75].every((value) => near(curve(value), sRgbCurve(value)))
        );
      })
    );
  } catch (cause) {
    if (cause instanceof RangeError) return false;
    throw cause;
  }
}

const near = (a: number, b: number) => Math.abs(a - b) <= tolerance;

/** Places of the tags' data by their signatures. */
function tagsOf(profile: Buffer): Map<string, number> {
  const count = Math.min(profile.readUInt32BE(128), 100);
  return new Map(
    Array.from({ length: count }, (_, index) => {
      const at = 132 + 12 * index;
      return [profile.toString('latin1', at, at + 4), profile.readUInt32BE(at + 4)];
    }),
  );
}

/** s15Fixed16Number, section 4.6. */
const fixed = (profile: Buffer, at: number) => profile.readInt32BE(at) / 65536;

/** Sections 10.6 and 10.18: a curve as a gamma, a table or one of five formulas. */
function readCurve(profile: Buffer, at: number): ((value: number) => number) | undefined {
  const type = profile.toString('latin1', at, at + 4);
  if (type === 'curv') {
    const count = profile.readUInt32BE(at + 8);
    if (count === 0) return (value) => value;
    if (count === 1) {
      const gamma = profile.readUInt16BE(at + 12) / 256;
      return (value) => value ** gamma;
    }
    return (value) => profile.readUInt16BE(at + 12 + 2 * Math.round(value * (count - 1))) / 65535;
  }
  if (type !== 'para') return undefined;
  const parameter = (index: number) => fixed(profile, at + 12 + 4 * index);
  const kind = profile.readUInt16BE(at + 8);
  const gamma = parameter(0);
  if (kind === 0) return (value) => value ** gamma;
  if (kind < 3) return undefined;
  const [a, b, c, d] = [parameter(1), parameter(2), parameter(3), parameter(4)];
  const [e, f] = kind === 4 ? [parameter(5), parameter(6)] : [0, 0];
  return (value) => (value >= d ? (a * value + b) ** gamma + e : c * value + f);
}
