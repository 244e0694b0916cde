/** What is worked out again only when a key changes. */

/** Return a function that hands out what it made last, as long as the key is the same. */
export function memo<Made>(): (key: string, make: () => Made) => Made {
  let known: { key: string; made: Made } | null = null
  return (key, make) => {
    if (known?.key !== key) known = { key, made: make() }
    return known.made
  }
}
