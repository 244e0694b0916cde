/** Ask for a name. */
import { ElMessageBox } from 'element-plus'

/** Return what was typed, empty if nothing was. */
export async function askName(title: string, confirm: string, offered = ''): Promise<string> {
  const answer = await ElMessageBox.prompt('Its name:', title, {
    inputValue: offered,
    inputPattern: /\S/,
    inputErrorMessage: 'Give it a name.',
    confirmButtonText: confirm,
    cancelButtonText: 'Cancel',
  }).catch(() => null)
  return ((answer as { value?: string } | null)?.value ?? '').trim()
}
