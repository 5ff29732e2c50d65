import { Button } from "@chakra-ui/react"
import type { ReactNode } from "react"

interface ActProps {
  onPress(): void
  disabled?: boolean
  pressed?: boolean
  title?: string
  children: ReactNode
}

/** A small button. One that holds is lit and underlined, as on the rule. */
export function Act({ onPress, disabled, pressed, title, children }: ActProps) {
  return (
    <Button
      size="xs"
      variant="outline"
      title={title}
      aria-pressed={pressed}
      disabled={disabled}
      bg={pressed ? "lit" : undefined}
      borderBottomWidth={pressed ? "3px" : undefined}
      borderBottomColor={pressed ? "press.solid" : undefined}
      h="auto"
      minH="7"
      py="1"
      whiteSpace="normal"
      overflowWrap="anywhere"
      textAlign="left"
      onMouseDown={(event) => event.preventDefault()}
      onClick={onPress}
    >
      {children}
    </Button>
  )
}
