/** A function of three objects that are never changed, so that the same three are only worked out once. */
export function remembered<A extends object, B extends object, C extends object, T>(
  of: (a: A, b: B, c: C) => T,
): (a: A, b: B, c: C) => T {
  const known = new WeakMap<A, WeakMap<B, WeakMap<C, { readonly value: T }>>>();
  return (a, b, c) => {
    const byA = known.get(a) ?? new WeakMap<B, WeakMap<C, { readonly value: T }>>();
    known.set(a, byA);
    const byB = byA.get(b) ?? new WeakMap<C, { readonly value: T }>();
    byA.set(b, byB);
    const there = byB.get(c);
    if (there) return there.value;
    const value = of(a, b, c);
    byB.set(c, { value });
    return value;
  };
}

/** Keeps the last so many that were asked for, each by its key. */
export function latest<T>(most: number): (key: string, make: () => T) => T {
  const known = new Map<string, T>();
  return (key, make) => {
    const value = known.has(key) ? known.get(key)! : make();
    known.delete(key);
    known.set(key, value);
    if (known.size > most) known.delete(known.keys().next().value!);
    return value;
  };
}
