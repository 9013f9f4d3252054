import { groupBy } from '../grouping.js';

/** Things that hang together, directly or by others. */
export class Clusters<Thing> {
  readonly #parents = new Map<Thing, Thing>();

  add(thing: Thing): void {
    if (!this.#parents.has(thing)) this.#parents.set(thing, thing);
  }

  join(one: Thing, other: Thing): void {
    this.add(one);
    this.add(other);
    this.#parents.set(this.#root(other), this.#root(one));
  }

  /** In the order in which their first members were added. */
  list(): Thing[][] {
    return [...groupBy(this.#parents.keys(), (thing) => this.#root(thing)).values()];
  }

  #root(thing: Thing): Thing {
    let root = thing;
    for (let parent = this.#parents.get(root); parent !== undefined && parent !== root;) {
      root = parent;
      parent = this.#parents.get(root);
    }
    this.#parents.set(thing, root);
    return root;
  }
}
