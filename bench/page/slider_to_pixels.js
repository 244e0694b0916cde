async ([dial, share]) => {
  const canvas = document.querySelector('[data-test=canvas]');
  const small = Object.assign(document.createElement('canvas'), { width: 96, height: 64 });
  const paper = small.getContext('2d', { willReadFrequently: true });
  const seen = () => { paper.clearRect(0, 0, 96, 64); paper.drawImage(canvas, 0, 0, 96, 64);
    return paper.getImageData(0, 0, 96, 64).data.reduce((sum, part, i) => (sum * 31 + part * (i % 97 + 1)) % 4294967291, 7) };
  const input = document.querySelector(dial ? `[data-test=dial-${dial}] input[type=range]` : '.dials input[type=range]');
  const before = seen();
  performance.clearResourceTimings();
  const begin = performance.now();
  input.value = Number(input.min) + share * (input.max - input.min);
  input.dispatchEvent(new Event('input', { bubbles: true }));
  let end = 0;
  let drawn = canvas.dataset.drawn;
  while (!end && performance.now() - begin < 20000) {
    await new Promise(requestAnimationFrame);
    if (canvas.dataset.drawn === drawn) continue;
    drawn = canvas.dataset.drawn;
    const now = performance.now();
    if (seen() !== before) end = now;
  }
  input.dispatchEvent(new Event('change', { bubbles: true }));
  const of = (part) => performance.getEntriesByType('resource').filter((e) => e.name.includes(part) && e.startTime >= begin && e.responseEnd <= end);
  const asked = of('/evaluations'), fetched = of('/buffers/');
  const server = asked.reduce((sum, e) => sum + e.responseEnd - e.startTime, 0);
  const transfer = fetched.length ? Math.max(...fetched.map((e) => e.responseEnd)) - Math.min(...fetched.map((e) => e.startTime)) : 0;
  return { total: end - begin, server, transfer, drawing: end - begin - server - transfer };
}
