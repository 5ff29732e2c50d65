/**
 * Shows the pictures of a gallery large where they stand, in a dialog: by keys, by buttons, by a finger. Without this
 * each tile is a link to its large file.
 */
const FAR = 40 // How far a finger goes before it means something, in CSS pixels.

function button(name, className, path) {
  const made = document.createElement("button")
  made.type = "button"
  made.className = className
  made.setAttribute("aria-label", name)
  made.innerHTML = `<svg viewBox="0 0 24 24" aria-hidden="true"><path d="${path}"/></svg>`
  return made
}

function dialogFor(links) {
  const dialog = document.createElement("dialog")
  dialog.className = "large"
  dialog.setAttribute("aria-label", "A picture, large")
  const picture = document.createElement("img")
  const told = document.createElement("p")
  told.className = "large-told"
  told.setAttribute("aria-live", "polite")
  const close = button("Close", "large-close", "M6 6l12 12M18 6L6 18")
  const back = button("Previous picture", "large-previous", "M15 5l-7 7 7 7")
  const on = button("Next picture", "large-next", "M9 5l7 7-7 7")
  dialog.append(close, picture, told, ...(links.length > 1 ? [back, on] : []))
  let at = 0
  const show = (index) => {
    at = (index + links.length) % links.length
    const link = links[at]
    const tile = link.querySelector("img")
    picture.removeAttribute("src") // The one before is not seen in the place of this one.
    picture.alt = tile.alt || link.getAttribute("aria-label") || ""
    picture.width = Number(link.dataset.width)
    picture.height = Number(link.dataset.height)
    picture.src = link.href
    const caption = link.closest("figure").querySelector("figcaption")?.textContent
    const number = links.length > 1 ? `${at + 1} of ${links.length}` : ""
    told.textContent = [caption, number].filter(Boolean).join(" · ")
  }
  close.addEventListener("click", () => dialog.close())
  back.addEventListener("click", () => show(at - 1))
  on.addEventListener("click", () => show(at + 1))
  dialog.addEventListener("keydown", (event) => {
    const to = { ArrowLeft: at - 1, ArrowRight: at + 1, Home: 0, End: links.length - 1 }[event.key]
    if (to === undefined || event.altKey || event.ctrlKey || event.metaKey) return
    event.preventDefault()
    show(to)
  })
  let from = null
  dialog.addEventListener("pointerdown", (event) => {
    from = event.target.closest("button") ? null : event.clientX
  })
  dialog.addEventListener("pointerup", (event) => {
    const moved = from === null ? 0 : event.clientX - from
    if (Math.abs(moved) > FAR && links.length > 1) show(at + (moved < 0 ? 1 : -1))
    // A press beside the picture goes back to the page.
    else if (from !== null && event.target === dialog) dialog.close()
    from = null
  })
  dialog.addEventListener("close", () => {
    picture.removeAttribute("src")
    links[at].focus()
  })
  document.body.append(dialog)
  return (index) => {
    show(index)
    dialog.showModal()
    close.focus({ focusVisible: false })
  }
}

for (const gallery of document.querySelectorAll(".gallery")) {
  const links = [...gallery.querySelectorAll("a[data-width]")]
  let open
  links.forEach((link, index) => {
    link.addEventListener("click", (event) => {
      if (event.ctrlKey || event.metaKey || event.shiftKey || event.altKey) return
      event.preventDefault()
      open ??= dialogFor(links)
      open(index)
    })
  })
}
