// Lets the time left run by the office's clock, whatever the clock of this telephone says. Without it the page stays as it was drawn.
for (const place of document.querySelectorAll('[data-closes]')) {
  const { closes, now, words } = place.dataset
  const drawn = performance.now()
  const show = () => {
    const minutes = Math.floor((Date.parse(closes) - Date.parse(now) - (performance.now() - drawn)) / 60_000)
    if (minutes < 0) return location.reload()
    const [d, h, m] = [Math.floor(minutes / 1440), Math.floor(minutes % 1440 / 60), minutes % 60]
    place.textContent = words.replace('…', d > 0 ? `${d} d ${h} h` : h > 0 ? `${h} h ${m} min` : `${m} min`)
  }
  setInterval(show, 15_000)
}
