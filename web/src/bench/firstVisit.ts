/** Whether someone is here for the first time: then the tour is offered once. */
export function isFirstVisit(): boolean {
  if (localStorage.getItem('reticula toured')) return false
  localStorage.setItem('reticula toured', 'yes')
  return true
}
