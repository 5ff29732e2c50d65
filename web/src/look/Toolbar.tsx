/**
 * A toolbar as the ARIA Authoring Practices have it: one stop for Tab, arrows, Home and End within; who comes back is
 * where they were. Chakra's base library has none.
 */
import { HStack, type StackProps } from "@chakra-ui/react"
import { type FocusEvent, type KeyboardEvent, useLayoutEffect, useRef } from "react"

interface Props extends StackProps {
  "aria-label": string
  onEscape?(): void
}

const toolsOf = (bar: HTMLElement | null) => [
  ...(bar?.querySelectorAll<HTMLButtonElement>("button:not(:disabled)") ?? []),
]

export function Toolbar({ onEscape, ...props }: Props) {
  const bar = useRef<HTMLDivElement>(null)
  const last = useRef<HTMLButtonElement | null>(null)
  const settle = () => {
    const tools = toolsOf(bar.current)
    const stop = tools.find((tool) => tool === last.current) ?? tools[0]
    for (const tool of tools) tool.tabIndex = tool === stop ? 0 : -1
  }
  // Whatever was drawn anew: tools come, go, and are switched off by what stands at the caret.
  useLayoutEffect(settle)

  const focused = ({ target }: FocusEvent) => {
    if (target instanceof HTMLButtonElement) last.current = target
    settle()
  }
  const key = (event: KeyboardEvent) => {
    if (event.key === "Escape") onEscape?.()
    const tools = toolsOf(bar.current)
    const at = tools.indexOf(document.activeElement as HTMLButtonElement)
    const to: Record<string, number> = {
      ArrowRight: (at + 1) % tools.length,
      ArrowLeft: (at - 1 + tools.length) % tools.length,
      Home: 0,
      End: tools.length - 1,
    }
    const next = to[event.key]
    if (next === undefined) return
    tools[next]?.focus()
    event.preventDefault()
  }
  return (
    <HStack ref={bar} role="toolbar" gap="0.5" flexWrap="wrap" onKeyDown={key} onFocus={focused} {...props} />
  )
}
