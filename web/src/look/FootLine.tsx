import { HStack, type StackProps } from "@chakra-ui/react"
import type { Ref } from "react"

/** A line above the foot, of something that came up while one writes. */
export function FootLine(props: StackProps & { "aria-label": string; ref?: Ref<HTMLDivElement> }) {
  return (
    <HStack
      as="section"
      gap="3"
      flexWrap="wrap"
      px="4"
      py="1.5"
      bg="lit"
      borderTopWidth="1px"
      borderColor="line"
      fontSize="sm"
      {...props}
    />
  )
}
