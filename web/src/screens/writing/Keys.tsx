import { Button, chakra, Heading, HStack } from "@chakra-ui/react"
import { KEYS } from "../../editor/keys"

/** The panel of keys, from the same list that binds them. */
export function Keys({ onClose }: { onClose(): void }) {
  return (
    <>
      <HStack justifyContent="space-between" pt="1" pb="2">
        <Heading as="h2" size="md" fontWeight="600" fontFamily="body">
          Keys
        </Heading>
        <Button size="xs" variant="ghost" onClick={onClose}>
          Close
        </Button>
      </HStack>
      <chakra.dl fontSize="sm">
        {KEYS.map((line) => (
          <HStack
            key={line.keys}
            justifyContent="space-between"
            gap="3"
            py="1"
            borderBottomWidth="1px"
            borderColor="line"
          >
            <chakra.dt>{line.does}</chakra.dt>
            <chakra.dd whiteSpace="nowrap" fontVariantNumeric="tabular-nums" color="quiet">
              {line.keys}
            </chakra.dd>
          </HStack>
        ))}
      </chakra.dl>
    </>
  )
}
