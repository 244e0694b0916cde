/** Where a result is fetched as a file, and what a format can be told. */
export interface ExportWish {
  node: string
  format: string
  options: Record<string, string>
  level: string
  frame: number
}

export const exportAddress = (graph: string, { options, frame, ...wish }: ExportWish) =>
  `/api/graphs/${graph}/export?${new URLSearchParams({
    ...wish,
    options: Object.entries(options)
      .map(([name, word]) => `${name}:${word}`)
      .join(','),
    frame: String(frame),
  })}`

/** The options of a format with the word that is chosen of each: the usual one, unless another one was. */
export const optionsOf = (known: Record<string, string[]>, chosen: Record<string, string>) =>
  Object.entries(known).map(([name, words]) => ({
    name,
    words,
    value: words.includes(chosen[name] ?? '') ? chosen[name]! : (words[0] ?? ''),
  }))
