/** Turns the pages of a document one after another; without this they stand one below the other. */

function button(page, name) {
  const made = page.createElement("button")
  made.type = "button"
  made.textContent = name
  return made
}

/** Gives a document its buttons; returns what takes them away. */
export function begin(paper) {
  const page = paper.ownerDocument
  const list = paper.querySelector(".paper-pages")
  if (!list || paper.dataset.turned === undefined || paper.querySelector(".paper-buttons")) return () => {}
  const leaves = [...list.children]
  const bar = page.createElement("div")
  bar.className = "paper-buttons"
  const back = button(page, "Previous page")
  const told = page.createElement("span")
  told.setAttribute("role", "status")
  const on = button(page, "Next page")
  bar.append(back, told, on)
  let at = 0
  const show = (index) => {
    at = Math.max(0, Math.min(leaves.length - 1, index))
    leaves.forEach((leaf, number) => {
      leaf.hidden = number !== at
    })
    told.textContent = leaves[at].querySelector(".paper-number").textContent
    // The button that was pressed stays where it is; at an end it says that there is no more.
    back.setAttribute("aria-disabled", String(at === 0))
    on.setAttribute("aria-disabled", String(at === leaves.length - 1))
  }
  back.addEventListener("click", () => show(at - 1))
  on.addEventListener("click", () => show(at + 1))
  const keys = (event) => {
    const to = { ArrowLeft: at - 1, ArrowRight: at + 1, PageUp: at - 1, PageDown: at + 1, Home: 0, End: leaves.length - 1 }[
      event.key
    ]
    if (to === undefined || event.altKey || event.ctrlKey || event.metaKey || event.shiftKey) return
    event.preventDefault()
    show(to)
  }
  bar.addEventListener("keydown", keys)
  list.before(bar)
  paper.classList.add("is-turned")
  show(0)
  return () => {
    bar.remove()
    paper.classList.remove("is-turned")
    for (const leaf of leaves) leaf.hidden = false
  }
}

for (const paper of document.querySelectorAll(".paper[data-turned]")) begin(paper)
