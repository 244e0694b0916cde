// Keeps when the first picture was on the screen, in ms since the page was asked for: a frame after the result was drawn.
// A question from outside would wait for whatever the page does then, and be late.
new MutationObserver((_, watching) => {
  if (!document.querySelector('[data-test=scale-bar]')) return
  watching.disconnect()
  const { port1, port2 } = new MessageChannel()
  port1.onmessage = () => (window.firstPicture = performance.now())
  requestAnimationFrame(() => port2.postMessage(null))
}).observe(document, { childList: true, subtree: true })
