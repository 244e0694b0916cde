/** How much room a formula gets: a short one stands beside its names, a long one has the width to itself. */
export const FORMULA_ROWS = { minRows: 1, maxRows: 16 }

/** Letters that fit beside the choice of names on a card of usual width. */
const SHORT = 22

export const isLong = (formula: string) => formula.length > SHORT || formula.includes('\n')
