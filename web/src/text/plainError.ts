/** Errors as they are told beside the text that they are in. */
import type { ErrorState } from '../api/client'

/** The words of an error without its place, which is shown. */
export function plainOf(error: ErrorState): string {
  return error.message.replace(/^line \d+, column \d+: /, '')
}
