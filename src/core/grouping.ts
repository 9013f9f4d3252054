/**
 * Things by a key that they share. Keys stand in the order in which they first come, and so do the things of each.
 * `Map.groupBy` (ECMAScript 2025, 24.1.2.1), which Node.js 20 does not have yet.
 */
export function groupBy<Thing, Key>(
  things: Iterable<Thing>,
  keyOf: (thing: Thing) => Key,
): Map<Key, Thing[]> {
  const groups = new Map<Key, Thing[]>();
  for (const thing of things) {
    const key = keyOf(thing);
    const group = groups.get(key);
    if (group) group.push(thing);
    else groups.set(key, [thing]);
  }
  return groups;
}
