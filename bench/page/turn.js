async (turns) => {
  const canvas = document.querySelector('[data-test=canvas]');
  const box = canvas.getBoundingClientRect();
  const at = (type, x) => canvas.dispatchEvent(new PointerEvent(type, { pointerId: 1, bubbles: true, clientX: box.x + x, clientY: box.y + box.height / 2, button: 0, buttons: 1, pointerType: 'mouse' }));
  let longest = 0;
  new PerformanceObserver((list) => list.getEntries().forEach((e) => (longest = Math.max(longest, e.duration)))).observe({ entryTypes: ['longtask'] });
  const wait = async (before) => { while (canvas.dataset.drawn === before) await new Promise(requestAnimationFrame) };
  canvas.setPointerCapture = () => {}; canvas.releasePointerCapture = () => {};
  at('pointerdown', box.width / 2);
  const begin = performance.now();
  for (let n = 1; n <= turns; n++) { const before = canvas.dataset.drawn; at('pointermove', box.width / 2 + n * 8); await wait(before) }
  const each = (performance.now() - begin) / turns;
  at('pointerup', box.width / 2 + turns * 8);
  await new Promise((wake) => setTimeout(wake, 300));
  return { each, longest };
}
