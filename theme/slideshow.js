/**
 * Moves slideshows, and stops them: the strip of slides is there without this and scrolls. Buttons, names and states as
 * the ARIA Authoring Practices describe a carousel. It stands still under the pointer, under focus, out of sight, for
 * readers who want things to stand still, and for good once somebody has stopped or led it.
 */
const still = matchMedia("(prefers-reduced-motion: reduce)")
const SIGNS = {
  stop: "M7 5h3v14H7zM14 5h3v14h-3z",
  start: "M8 5v14l11-7z",
  previous: "M15 5l-7 7 7 7",
  next: "M9 5l7 7-7 7",
}

function button(page, name, sign) {
  const made = page.createElement("button")
  made.type = "button"
  made.className = `slides-${sign || "dot"}`
  made.setAttribute("aria-label", name)
  if (sign) setSign(made, sign)
  return made
}

function setSign(made, sign) {
  const svg = made.ownerDocument.createElementNS("http://www.w3.org/2000/svg", "svg")
  const path = made.ownerDocument.createElementNS("http://www.w3.org/2000/svg", "path")
  svg.setAttribute("viewBox", "0 0 24 24")
  svg.setAttribute("aria-hidden", "true")
  path.setAttribute("d", SIGNS[sign])
  svg.append(path)
  made.replaceChildren(svg)
}

/** Gives a slideshow its buttons. `moves` says whether it may move by itself here; returns what ends it. */
export function begin(show, moves = true) {
  const page = show.ownerDocument
  const strip = show.querySelector(".slides")
  const slides = [...strip.children]
  if (slides.length < 2 || show.querySelector(".slides-buttons")) return () => {}
  const stay = Number(show.dataset.stay) || 6000
  const change = Number(show.dataset.change ?? 900)
  const ended = new AbortController()
  const { signal } = ended
  let at = 0
  let running = moves && show.dataset.moves !== "no" && !still.matches
  let held = 0
  let seen = false
  let timer = 0
  let frame = 0

  const bar = page.createElement("div")
  bar.className = "slides-buttons"
  const turning = button(page, "", "stop")
  const back = button(page, "Previous slide", "previous")
  const on = button(page, "Next slide", "next")
  const dots = page.createElement("div")
  dots.className = "slides-dots"
  dots.setAttribute("role", "group")
  dots.setAttribute("aria-label", "Choose a slide")
  const chosen = slides.map((slide, index) => {
    const words = slide.querySelector(".slide-heading, .slide-words")?.textContent.trim()
    const dot = button(page, words ? `Slide ${index + 1}: ${words}` : `Slide ${index + 1}`)
    dot.addEventListener("click", () => lead(index), { signal })
    return dot
  })
  dots.append(...chosen)
  if (show.dataset.moves !== "no") bar.append(turning)
  bar.append(back, dots, on)
  // The first in the order of keys, so that whoever comes to it can stop it before all else.
  show.prepend(bar)

  const left = (slide) => slide.offsetLeft - slides[0].offsetLeft

  function tell() {
    slides.forEach((slide, index) => {
      slide.inert = index !== at
      chosen[index].toggleAttribute("aria-current", index === at)
      if (index === at) chosen[index].setAttribute("aria-current", "true")
    })
    strip.setAttribute("aria-live", running ? "off" : "polite")
    turning.setAttribute("aria-label", running ? "Stop the slides" : "Start the slides")
    setSign(turning, running ? "stop" : "start")
  }

  function goTo(index) {
    at = (index + slides.length) % slides.length
    tell()
    page.defaultView.cancelAnimationFrame(frame)
    const [from, to] = [strip.scrollLeft, left(slides[at])]
    if (still.matches || change === 0) {
      strip.scrollLeft = to
      return
    }
    strip.style.scrollSnapType = "none"
    let begun = 0
    const step = (now) => {
      begun ||= now
      const part = Math.min(1, (now - begun) / change)
      strip.scrollLeft = from + (to - from) * (part * part * (3 - 2 * part))
      if (part < 1) frame = page.defaultView.requestAnimationFrame(step)
      else strip.style.scrollSnapType = ""
    }
    frame = page.defaultView.requestAnimationFrame(step)
  }

  function wait() {
    clearTimeout(timer)
    if (running && seen && !held && !page.hidden) {
      timer = setTimeout(() => {
        goTo(at + 1)
        wait()
      }, stay + change)
    }
  }

  function stop() {
    running = false
    tell()
    wait()
  }

  /** Somebody goes to a slide: from then on nothing moves by itself. */
  function lead(index) {
    stop()
    goTo(index)
  }

  turning.addEventListener(
    "click",
    () => {
      running = !running
      tell()
      if (running) goTo(at + 1)
      wait()
    },
    { signal },
  )
  back.addEventListener("click", () => lead(at - 1), { signal })
  on.addEventListener("click", () => lead(at + 1), { signal })
  strip.addEventListener(
    "keydown",
    (event) => {
      const to = { ArrowLeft: at - 1, ArrowRight: at + 1, Home: 0, End: slides.length - 1 }[event.key]
      if (to === undefined || event.target !== strip) return
      event.preventDefault()
      lead(to)
    },
    { signal },
  )
  // By a finger or a wheel: the slide that is there now is the one that counts.
  strip.addEventListener(
    "scrollend",
    () => {
      if (strip.style.scrollSnapType === "none") return
      const near = slides.map((slide) => Math.abs(left(slide) - strip.scrollLeft))
      const index = near.indexOf(Math.min(...near))
      if (index !== at) {
        at = index
        stop()
      }
    },
    { signal },
  )
  const hold = (by) => () => {
    held += by
    wait()
  }
  show.addEventListener("pointerenter", hold(1), { signal })
  show.addEventListener("pointerleave", hold(-1), { signal })
  show.addEventListener(
    "focusin",
    (event) => {
      // Whoever reads it by keys leads it from then on; but the button that stops it is theirs to press.
      if (!show.contains(event.relatedTarget) && event.target !== turning && event.target.matches(":focus-visible")) stop()
      else if (!show.contains(event.relatedTarget)) hold(1)()
    },
    { signal },
  )
  show.addEventListener(
    "focusout",
    (event) => {
      if (!show.contains(event.relatedTarget)) {
        held = show.matches(":hover") ? 1 : 0
        wait()
      }
    },
    { signal },
  )
  page.addEventListener("visibilitychange", wait, { signal })
  still.addEventListener("change", () => still.matches && stop(), { signal })
  const watch = new IntersectionObserver(
    ([entry]) => {
      seen = entry.isIntersecting
      wait()
    },
    { threshold: 0.5 },
  )
  watch.observe(show)
  tell()
  return () => {
    ended.abort()
    clearTimeout(timer)
    watch.disconnect()
    bar.remove()
    for (const slide of slides) slide.inert = false
  }
}

for (const show of document.querySelectorAll(".slideshow")) begin(show)
