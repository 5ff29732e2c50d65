import { Button, chakra, HStack, Text } from "@chakra-ui/react"
import { Act } from "./particulars/parts"
import type { Uploads } from "./useUploads"

/** Files on their way into the library, with progress, and what could not be taken. */
export function UploadList({ uploads }: { uploads: Uploads }) {
  if (!uploads.list.length) return null
  return (
    <chakra.ul aria-label="Files being added" listStyleType="none" px="4" pb="3">
      {uploads.list.map((each) => (
        <chakra.li key={each.id} py="1">
          <HStack justifyContent="space-between" gap="2">
            <Text fontSize="sm" truncate>
              {each.name}
            </Text>
            <Button
              size="xs"
              variant="ghost"
              onClick={each.problem ? () => uploads.dismiss(each.id) : each.cancel}
            >
              {each.problem ? "Dismiss" : "Cancel"}
            </Button>
          </HStack>
          {each.choices.length > 0 ? (
            <HStack role="group" aria-label={`What to do with ${each.name}`} gap="1" flexWrap="wrap" pt="1">
              {each.choices.map(({ label, take }) => (
                <Act key={label} onPress={take}>
                  {label}
                </Act>
              ))}
            </HStack>
          ) : each.problem ? (
            <Text role="alert" fontSize="sm" color="wrong">
              {each.problem}
            </Text>
          ) : (
            <chakra.progress aria-label={`Adding ${each.name}`} w="full" h="1.5" max={1} value={each.share} />
          )}
        </chakra.li>
      ))}
    </chakra.ul>
  )
}
