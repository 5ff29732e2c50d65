/** The first stops of a screen, seen while they have the focus: straight to what one came for. */

import { chakra } from "@chakra-ui/react"
import { t } from "@lingui/core/macro"

export function SkipLinks({ to }: { to: [string, () => void][] }) {
  return (
    <chakra.nav aria-label={t`Skip`} position="absolute" zIndex="2">
      {to.map(([name, go]) => (
        <chakra.button
          key={name}
          type="button"
          position="absolute"
          left="2"
          top="1"
          px="3"
          py="1.5"
          bg="paper"
          color="press.fg"
          whiteSpace="nowrap"
          borderWidth="1px"
          borderColor="press.solid"
          textDecoration="underline"
          css={{
            "&:not(:focus)": {
              clipPath: "inset(50%)",
              width: "1px",
              height: "1px",
              padding: 0,
              overflow: "hidden",
            },
          }}
          onClick={go}
        >
          {name}
        </chakra.button>
      ))}
    </chakra.nav>
  )
}
