/**
 * Starts films that begin by themselves: without sound, while they are seen, and never for readers who want things to
 * stand still. Whoever stops one has stopped it for good.
 */
const still = matchMedia("(prefers-reduced-motion: reduce)")
const started = new WeakSet()

const seen = new IntersectionObserver(
  (entries) => {
    for (const { target, isIntersecting } of entries) {
      if (isIntersecting && !still.matches && !target.dataset.stopped) {
        started.add(target)
        target.play().catch(() => started.delete(target))
      } else if (!isIntersecting && started.delete(target)) {
        target.pause()
      }
    }
  },
  { threshold: 0.4 },
)

for (const film of document.querySelectorAll("video[data-starts]")) {
  film.muted = true
  film.addEventListener("pause", () => {
    if (started.has(film) && !film.ended) film.dataset.stopped = "by the reader"
  })
  seen.observe(film)
}

still.addEventListener("change", () => {
  if (!still.matches) return
  for (const film of document.querySelectorAll("video[data-starts]")) film.pause()
})
