/** Some things by what `keyOf` gives for each, in their order; the groups in the order of their first. */
export function groupedBy<T, K>(all: readonly T[], keyOf: (one: T) => K): Map<K, T[]> {
  const groups = new Map<K, T[]>();
  for (const one of all) {
    const group = groups.get(keyOf(one));
    if (group) group.push(one);
    else groups.set(keyOf(one), [one]);
  }
  return groups;
}

/** How many of some rising numbers are not above another: by halving, so that a long list is not read through. */
export function countUpTo(rising: ArrayLike<number>, limit: number): number {
  let [low, high] = [0, rising.length];
  while (low < high) {
    const middle = (low + high) >> 1;
    if ((rising[middle] ?? Infinity) <= limit) low = middle + 1;
    else high = middle;
  }
  return low;
}
