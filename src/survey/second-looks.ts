import type { VisitSummary } from './visit-summary.js';

/** After so many second looks that showed no more than the first, pages of a site are taken to be as slow as they seem. */
const mostInVain = 3;

/** How much of a page a visit saw. */
const order = ['unseen', 'partial', 'redirected', 'complete'];
const seenOf = ({ visit }: VisitSummary) => order.indexOf(visit.state);

/**
 * Second looks at pages that did not settle in time: what stood open beside them may have kept the machine busy, or a server was slow once. They come after
 * what was waiting for the browser already.
 */
export class SecondLooks {
  #inVain = 0;

  /** Looks once more, unless that has helped nobody; gives what saw more of the page, the first of equals. */
  async better(first: VisitSummary, look: () => Promise<VisitSummary>): Promise<VisitSummary> {
    if (this.#inVain >= mostInVain) return first;
    const second = await look();
    const helps = seenOf(second) > seenOf(first);
    this.#inVain = helps ? 0 : this.#inVain + 1;
    return helps ? second : first;
  }
}
