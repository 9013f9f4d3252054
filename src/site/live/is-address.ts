/** Whether a target is an address and not a folder. */
export const isAddress = (target: string): boolean => /^https?:\/\//i.test(target);
