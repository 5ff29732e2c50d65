/**
 * Makes a press of each link to a film or post at another host: it puts the host's player in the place of the cover. Until
 * then nothing is asked of the host; without this the link leads there.
 */
for (const link of document.querySelectorAll("a.press[data-frame]")) {
  const press = document.createElement("button")
  press.type = "button"
  press.className = link.className
  press.dataset.address = link.href // What is copied from the page still says where it is.
  press.append(...link.childNodes)
  link.replaceWith(press)
  press.addEventListener("click", () => {
    const shown = press.querySelector("svg")
    const frame = document.createElement("iframe")
    frame.title = link.dataset.name || press.querySelector(".press-title").textContent
    frame.width = shown.getAttribute("width")
    frame.height = shown.getAttribute("height")
    frame.style.aspectRatio = `${frame.width} / ${frame.height}`
    frame.allow = "autoplay; encrypted-media; fullscreen; picture-in-picture"
    frame.setAttribute("sandbox", "allow-scripts allow-same-origin allow-presentation")
    frame.referrerPolicy = "strict-origin"
    frame.src = link.dataset.frame
    // Where the player does not come, there is still a way to the film.
    const there = document.createElement("a")
    there.className = "press-there"
    there.href = link.href
    there.textContent = press.querySelector(".press-host").textContent
    press.after(frame, there)
    press.remove()
    frame.focus()
  })
}
