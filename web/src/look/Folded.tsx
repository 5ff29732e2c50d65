import { Box, Button, Stack } from "@chakra-ui/react"
import { type ReactNode, useState } from "react"

/** Something that is seldom needed: a button that shows it, and hides it again. */
export function Folded({
  label,
  open = false,
  keeps = false,
  children,
}: {
  label: string
  open?: boolean
  /** Whether what is typed in it stays while it is hidden. */
  keeps?: boolean
  children: ReactNode
}) {
  const [shown, setShown] = useState(open)
  const [wasShown, setWasShown] = useState(open)
  return (
    <Stack gap="2">
      <Button
        size="xs"
        variant="outline"
        alignSelf="flex-start"
        aria-expanded={shown}
        onClick={() => {
          setShown(!shown)
          setWasShown(keeps)
        }}
      >
        {label}
      </Button>
      {(shown || wasShown) && <Box hidden={!shown}>{children}</Box>}
    </Stack>
  )
}
