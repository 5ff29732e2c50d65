import { Button, Stack } from "@chakra-ui/react"
import { type ReactNode, useState } from "react"

/** Something that is seldom needed: a button that shows it, and hides it again. */
export function Folded({
  label,
  open = false,
  children,
}: {
  label: string
  open?: boolean
  children: ReactNode
}) {
  const [shown, setShown] = useState(open)
  return (
    <Stack gap="2">
      <Button
        size="xs"
        variant="outline"
        alignSelf="flex-start"
        aria-expanded={shown}
        onClick={() => setShown(!shown)}
      >
        {label}
      </Button>
      {shown && children}
    </Stack>
  )
}
