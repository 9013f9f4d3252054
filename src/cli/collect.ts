/** Gathers an option that may be given several times. */
export function collect(value: string, list: string[] | undefined): string[] {
  return [...(list ?? []), value];
}
