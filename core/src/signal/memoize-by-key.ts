/** Remembers what was made for each key: makes it at the first asking, and gives the same one ever after. */
export const memoizeByKey = <Value>(): ((key: string, make: () => Value) => Value) => {
  const made = new Map<string, Value>();
  return (key, make) => {
    const value = made.get(key) ?? make();
    made.set(key, value);
    return value;
  };
};
