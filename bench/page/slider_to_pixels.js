async ([dial, share]) => {
  const canvas = document.querySelector('[data-test=canvas]');
  const small = Object.assign(document.createElement('canvas'), { width: 96, height: 64 });
  const paper = small.getContext('2d', { willReadFrequently: true });
  const seen = () => { paper.clearRect(0, 0, 96, 64); paper.drawImage(canvas, 0, 0, 96, 64);
    return paper.getImageData(0, 0, 96, 64).data.reduce((sum, part, i) => (sum * 31 + part * (i % 97 + 1)) % 4294967291, 7) };
  const runway = document.querySelector(`${dial ? `[data-test=dial-${dial}]` : '.dials'} .el-slider__runway`);
  const box = runway.getBoundingClientRect();
  const spot = { clientX: box.left + share * box.width, clientY: box.top + 2, button: 0, bubbles: true };
  const before = seen();
  performance.clearResourceTimings();
  const begin = performance.now();
  runway.dispatchEvent(new MouseEvent('mousedown', spot));
  let end = 0;
  let drawn = canvas.dataset.drawn;
  while (!end && performance.now() - begin < 20000) {
    await new Promise(requestAnimationFrame);
    if (canvas.dataset.drawn === drawn) continue;
    drawn = canvas.dataset.drawn;
    const now = performance.now();
    if (seen() !== before) end = now;
  }
  window.dispatchEvent(new MouseEvent('mouseup', spot));
  const of = (part) => performance.getEntriesByType('resource').filter((e) => e.name.includes(part) && e.startTime >= begin && e.responseEnd <= end);
  const asked = of('/evaluations'), fetched = of('/buffers/');
  const server = asked.reduce((sum, e) => sum + e.responseEnd - e.startTime, 0);
  const transfer = fetched.length ? Math.max(...fetched.map((e) => e.responseEnd)) - Math.min(...fetched.map((e) => e.startTime)) : 0;
  return { total: end - begin, server, transfer, drawing: end - begin - server - transfer };
}
