const units: Record<string, number> = { b: 1, kb: 1000, mb: 1_000_000 };

/** An amount of bytes as a person writes it: 300000, "300 kB", "1.2 MB"; undefined where it is none. */
export function parseBytes(value: number | string): number | undefined {
  if (typeof value === 'number') return Number.isFinite(value) && value >= 0 ? value : undefined;
  const [, amount, unit = 'b'] = /^\s*(\d+(?:\.\d+)?)\s*(b|kb|mb)?\s*$/i.exec(value) ?? [];
  return amount === undefined ? undefined : Math.round(Number(amount) * (units[unit.toLowerCase()] ?? 1));
}
