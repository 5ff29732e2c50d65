import { Button, chakra, Heading, Text } from "@chakra-ui/react"
import { Trans } from "@lingui/react/macro"

/** A whole screen that has only this to say, with a way on. */
export function Sentence({ title, text, again }: { title: string; text: string; again?: () => void }) {
  return (
    <chakra.main maxW="34rem" mx="auto" mt="20vh" px="6">
      <Heading as="h1" size="2xl" fontWeight="500" mb="3">
        {title}
      </Heading>
      <Text mb="5">{text}</Text>
      {again && (
        <Button onClick={again}>
          <Trans>Try again</Trans>
        </Button>
      )}
    </chakra.main>
  )
}
