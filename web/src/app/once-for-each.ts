/** A function that works something out once for each object and remembers it for as long as that is there. */
export const onceForEach = <Key extends object, Value>(make: (key: Key) => Value): ((key: Key) => Value) => {
  const known = new WeakMap<Key, Value>();
  return (key) => {
    const found = known.get(key);
    if (found !== undefined) return found;
    const made = make(key);
    known.set(key, made);
    return made;
  };
};
