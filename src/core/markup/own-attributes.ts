/** Whether an attribute is one in which an image says something of its own beside its address, which a copy of the whole element says too. */
export const isOwnAttribute = (name: string): boolean =>
  name === 'alt' || name === 'title' || name.startsWith('data-');
