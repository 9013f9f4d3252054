/** One number in both runs. */
export interface Pair {
  before: number;
  after: number;
}

/** How much more the later one is. */
export const growth = ({ before, after }: Pair) => after - before;

/** What is in one run only, and what is in both and changed. */
export interface ByChange<Item> {
  appeared: Item[];
  worse: Item[];
  better: Item[];
  went: Item[];
}
