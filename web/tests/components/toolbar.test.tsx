import { screen } from "@testing-library/react"
import { userEvent } from "@testing-library/user-event"
import { useState } from "react"
import { expect, test, vi } from "vitest"
import { Toolbar } from "../../src/look/Toolbar"
import { show } from "./rendering"

const away = vi.fn()

function Bars() {
  const [off, setOff] = useState(false)
  return (
    <>
      <Toolbar aria-label="Tools" onEscape={away}>
        <button type="button">one</button>
        <button type="button" disabled={off}>
          two
        </button>
        <button type="button" onClick={() => setOff(true)}>
          three
        </button>
      </Toolbar>
      <button type="button">after</button>
    </>
  )
}
const here = () => document.activeElement?.textContent

// ARIA Authoring Practices Guide, “Toolbar Pattern”.
test("a toolbar is one stop, with arrows within; who comes back is where they were", async () => {
  const user = userEvent.setup()
  show(<Bars />)
  await user.tab()
  expect(here()).toBe("one")
  await user.keyboard("{ArrowRight}")
  expect(here()).toBe("two")
  await user.tab()
  expect(here()).toBe("after")
  await user.tab({ shift: true })
  expect(here()).toBe("two")
  await user.keyboard("{End}{ArrowRight}")
  expect(here()).toBe("one")
  await user.keyboard("{ArrowLeft}{Home}{Escape}")
  expect(here()).toBe("one")
  expect(away).toHaveBeenCalledOnce()
})

test("what is switched off is passed over, and the stop is never lost", async () => {
  const user = userEvent.setup()
  show(<Bars />)
  await user.click(screen.getByText("two"))
  await user.click(screen.getByText("three"))
  expect(screen.getAllByRole("button").map((each) => each.tabIndex)).toEqual([-1, -1, 0, 0])
  await user.keyboard("{ArrowLeft}")
  expect(here()).toBe("one")
})
