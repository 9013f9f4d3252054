/** Remembers what was made last, and lets the oldest go: for what takes room, and is asked for again soon or never. */
export class Recent<Key, Value> {
  readonly #values = new Map<Key, Value>();

  /** @param most values kept, at least 1 */
  constructor(readonly most: number) {}

  remember(key: Key, make: () => Value): Value {
    if (this.#values.has(key)) return this.#values.get(key) as Value;
    const made = make();
    this.#values.set(key, made);
    const [oldest] = this.#values.keys();
    if (this.#values.size > this.most && oldest !== undefined) this.#values.delete(oldest);
    return made;
  }
}
