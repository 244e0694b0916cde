/** Let the page do what waits, such as drawing, between two parts of a long work. */
export const breathe = () =>
  new Promise<void>((wake) => {
    const { port1, port2 } = new MessageChannel()
    port1.onmessage = () => wake()
    port2.postMessage(null)
  })
