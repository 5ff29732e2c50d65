import { Button, Heading, HStack } from "@chakra-ui/react"
import { Trans } from "@lingui/react/macro"

/** The name of what stands in the Shelf, and the way out of it. */
export function PanelHead({ title, onClose }: { title: string; onClose(): void }) {
  return (
    <HStack justifyContent="space-between" alignItems="flex-start">
      <Heading as="h2" size="md" fontWeight="600" fontFamily="body">
        {title}
      </Heading>
      <Button size="xs" variant="ghost" onClick={onClose}>
        <Trans>Close</Trans>
      </Button>
    </HStack>
  )
}
