/**
 * Plays animations drawn of lines. The player, and the animation, are asked for when it comes into view; until then,
 * and for readers who want things to stand still, there is a still frame. Whoever stops one has stopped it.
 */
const still = matchMedia("(prefers-reduced-motion: reduce)")
const SIGNS = { stop: "M7 5h3v14H7zM14 5h3v14h-3z", start: "M8 5v14l11-7z" }

/** The player, loaded once. */
async function playerAt(address) {
  globalThis.lottie || (await import(address))
  return globalThis.lottie
}

function setSign(button, sign, name) {
  button.className = `animation-${sign}`
  button.setAttribute("aria-label", name)
  button.innerHTML = `<svg viewBox="0 0 24 24" aria-hidden="true"><path d="${SIGNS[sign]}"/></svg>`
}

/**
 * Makes an animation move. `moves` says whether it may do so by itself here; standing still it shows the frame that it
 * begins with, in its colours. Returns what ends it.
 */
export function begin(block, moves = true) {
  const box = block.querySelector(".animation-box")
  if (!box || box.querySelector(".animation-lines")) return () => {}
  const page = block.ownerDocument
  const { src, player, start, name } = box.dataset
  const speed = (Number(box.dataset.speed) || 100) / 100
  const delay = Number(box.dataset.delay) || 0
  const times = Number(box.dataset.times) || 0
  const ended = new AbortController()
  const { signal } = ended
  const frame = box.firstElementChild
  let lines = null
  let animation = null
  let loading = null
  let wanted = false
  let stopped = false
  let timer = 0

  const button = page.createElement("button")
  button.type = "button"
  const tell = () => setSign(button, wanted ? "stop" : "start", `${wanted ? "Stop" : "Play"}: ${name}`)

  async function load() {
    const [lottie, answer] = await Promise.all([
      playerAt(new URL(player, page.baseURI).href),
      fetch(new URL(src, page.baseURI).href, { signal }),
    ])
    if (!answer.ok) throw new Error(answer.statusText)
    const data = await answer.json()
    if (signal.aborted) return
    lines = page.createElement("div")
    lines.className = "animation-lines"
    lines.setAttribute("aria-hidden", "true")
    button.before(lines)
    animation = lottie.loadAnimation({
      container: lines,
      renderer: "svg",
      loop: times ? times - 1 : true,
      autoplay: false,
      animationData: data,
    })
    animation.setSpeed(speed)
    animation.addEventListener("complete", () => {
      wanted = false
      tell()
    })
    frame.classList.add("is-covered")
  }

  const ready = () => {
    loading ??= load().catch(() => {
      loading = null // The still frame stays; a press tries again.
      wanted = false
      tell()
    })
    return loading
  }

  async function play() {
    wanted = true
    tell()
    await ready()
    if (!wanted || !animation) return
    clearTimeout(timer)
    timer = setTimeout(() => {
      if (!wanted || !animation) return
      if (animation.currentFrame >= animation.totalFrames - 1) animation.goToAndPlay(0, true)
      else animation.play()
    }, delay)
  }

  function pause() {
    wanted = false
    clearTimeout(timer)
    animation?.pause()
    tell()
  }

  button.addEventListener(
    "click",
    () => {
      stopped = wanted
      if (wanted) pause()
      else void play()
    },
    { signal },
  )
  const watch = new IntersectionObserver(
    ([entry]) => {
      if (!entry.isIntersecting) {
        if (wanted) pause()
      } else if (moves && start === "view" && !still.matches && !stopped) void play()
      else if (!still.matches || !moves) void ready()
    },
    { threshold: 0.3 },
  )
  if (start === "hover" && moves) {
    box.addEventListener("pointerenter", () => !still.matches && void play(), { signal })
    box.addEventListener("pointerleave", pause, { signal })
  }
  still.addEventListener("change", () => still.matches && pause(), { signal })
  tell()
  box.append(button)
  watch.observe(box)
  return () => {
    ended.abort()
    watch.disconnect()
    clearTimeout(timer)
    animation?.destroy()
    lines?.remove()
    button.remove()
    frame.classList.remove("is-covered")
  }
}

for (const block of document.querySelectorAll(".animation")) begin(block)
