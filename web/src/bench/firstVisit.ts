/** Whether someone is here for the first time: then the tour is offered once. Browsers driven by a program are not. */
export function isFirstVisit(): boolean {
  if (navigator.webdriver || localStorage.getItem('reticula toured')) return false
  localStorage.setItem('reticula toured', 'yes')
  return true
}
