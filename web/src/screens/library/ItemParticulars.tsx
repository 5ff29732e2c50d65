import { Button, chakra, Field, Heading, Input, Stack, Text, Textarea } from "@chakra-ui/react"
import { useQueryClient } from "@tanstack/react-query"
import { type FormEvent, useState } from "react"
import { ask, client, type ItemChange, type LibraryEntry } from "../../api/client"
import { Uses } from "../../look/Uses"
import { day, kilobytes } from "../../look/words"

const FACTS = [
  ["title", "Title", 200, ""],
  ["alt", "Alt text", 1000, "What it shows, for who cannot see it. Each page may word it anew."],
  ["description", "Description", 2000, "For who looks for it here. Readers do not see it."],
  ["credit", "Credit", 200, "Whose it is."],
  ["licence", "Licence", 200, "Under what terms it may be shown."],
] as const

/** What the library says of an item; kept together when it is wished. */
export function ItemParticulars({ entry }: { entry: LibraryEntry }) {
  const { item, added_at, added_by } = entry
  const [told, setTold] = useState("")
  const [wrong, setWrong] = useState("")
  const queries = useQueryClient()
  const keep = async (event: FormEvent<HTMLFormElement>) => {
    event.preventDefault()
    const form = new FormData(event.currentTarget)
    const body: ItemChange = Object.fromEntries(
      FACTS.filter(([name]) => form.has(name)).map(([name]) => [name, String(form.get(name))]),
    )
    try {
      await ask(client.PATCH("/api/items/{item_id}", { params: { path: { item_id: item.id } }, body }))
      setWrong("")
      setTold("Kept.")
      queries.invalidateQueries({ queryKey: ["library"] })
      queries.invalidateQueries({ queryKey: ["shelf"] })
    } catch (error) {
      setTold("")
      setWrong((error as Error).message)
    }
  }
  return (
    <chakra.form onSubmit={keep} onChange={() => setTold("")}>
      <Stack gap="3">
        <Heading as="h2" size="md" fontWeight="600" fontFamily="body" wordBreak="break-word">
          {item.title}
        </Heading>
        {item.thumbnail && <chakra.img src={item.thumbnail} alt="" maxH="10rem" objectFit="contain" />}
        <Text fontSize="sm" color="quiet">
          {item.format}, {item.kind === "picture" && `${item.width} × ${item.height} pixels, `}
          {kilobytes(item.size)}, added by {added_by} on {day(added_at)}
        </Text>
        {FACTS.filter(([name]) => name !== "alt" || item.kind === "picture").map(
          ([name, label, most, help]) => {
            const given = {
              name,
              defaultValue: item[name],
              maxLength: most,
              bg: "paper",
              borderColor: "edge",
            }
            return (
              <Field.Root key={name} required={name === "title"}>
                <Field.Label>{label}</Field.Label>
                {name === "alt" || name === "description" ? (
                  <Textarea {...given} rows={3} />
                ) : (
                  <Input {...given} size="sm" />
                )}
                {help && <Field.HelperText color="quiet">{help}</Field.HelperText>}
              </Field.Root>
            )
          },
        )}
        <Button type="submit" size="sm" alignSelf="flex-start">
          Keep this
        </Button>
        <Text role="status" fontSize="sm">
          {told}
        </Text>
        <Text role="alert" fontSize="sm" color="wrong">
          {wrong}
        </Text>
        <Uses item={item.id} here={null} />
        <chakra.a
          href={item.address}
          color="press.fg"
          fontSize="sm"
          textDecoration="underline"
          target="_blank"
          rel="noopener"
        >
          The file as it came, in a new window
        </chakra.a>
      </Stack>
    </chakra.form>
  )
}
