/** The page of a placement, by its id: the page’s path, `#`, and its number there. */
export const pageOf = (placement: string): string => placement.slice(0, placement.lastIndexOf('#'));
