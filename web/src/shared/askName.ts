/** Ask for a name. */
import { ElMessageBox } from 'element-plus'

/** Return what was typed, empty if nothing was. `asked` is the question, which says whether it is a name or a title. */
export async function askName(
  title: string,
  confirm: string,
  { offered = '', asked = 'Its name:' } = {},
): Promise<string> {
  const answer = await ElMessageBox.prompt(asked, title, {
    inputValue: offered,
    inputPattern: /\S/,
    inputErrorMessage: asked.includes('title') ? 'Give it a title.' : 'Give it a name.',
    confirmButtonText: confirm,
    cancelButtonText: 'Cancel',
  }).catch(() => null)
  return ((answer as { value?: string } | null)?.value ?? '').trim()
}
